<script setup lang="ts">
import { useUi } from '@/app/ui'

defineProps<{ title: string }>()
const ui = useUi()
</script>

<template>
  <aside class="rail no-print" :class="{ folded: !ui.railOpen }">
    <button class="plain fold small quiet" :aria-expanded="ui.railOpen" @click="ui.toggleRail()">
      {{ ui.railOpen ? 'Fold' : 'Reasons' }}
    </button>
    <div v-if="ui.railOpen" class="body" tabindex="0" role="region" :aria-label="title">
      <h2>{{ title }}</h2>
      <slot />
    </div>
  </aside>
</template>

<style scoped>
.rail {
  width: 310px;
  flex: none;
  border-left: 1px solid rgb(var(--v-theme-line));
  background: rgb(var(--v-theme-surface));
  padding: 8px 16px 48px;
  align-self: stretch;
}
.rail.folded {
  width: 72px;
  padding: 8px;
}
@media (max-width: 900px) {
  .rail,
  .rail.folded {
    width: auto;
    border-left: 0;
    border-top: 1px solid rgb(var(--v-theme-line));
  }
}
.fold {
  float: right;
}
.body {
  position: sticky;
  top: 8px;
  max-height: calc(100vh - 48px);
  overflow-y: auto;
  padding-bottom: 40px;
}
</style>
