<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { useUi } from '@/app/ui'

/**
 * What is behind the thing that is chosen. Beside the sheet where there is room for it; on a narrow screen it lies over
 * the foot of the page, closed until it is asked for or, where `about` names what is chosen, until something is.
 */
const props = defineProps<{ title: string; about?: string | undefined }>()
const ui = useUi()
const narrow = useMediaQuery('(max-width: 900px)')
const lifted = ref(false)
const open = computed(() => (narrow.value ? lifted.value : ui.railOpen))
watch(
  () => props.about,
  (about) => (lifted.value = !!about),
)
const flip = () => (narrow.value ? (lifted.value = !lifted.value) : ui.toggleRail())
</script>

<template>
  <aside class="rail no-print" :aria-label="props.title" :class="{ folded: !open }">
    <button class="plain fold small quiet" :aria-expanded="open" @click="flip">
      {{ open ? 'Fold' : narrow ? props.title : 'Reasons' }}
    </button>
    <div v-if="open" class="body" tabindex="0">
      <h2>{{ props.title }}</h2>
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
.fold {
  float: right;
}
@media (pointer: coarse) {
  .fold {
    min-width: 44px;
    min-height: 44px;
  }
}
.body {
  position: sticky;
  top: 8px;
  max-height: calc(100vh - 48px);
  overflow-y: auto;
  padding-bottom: 40px;
}
@media (max-width: 900px) {
  .rail,
  .rail.folded {
    position: sticky;
    bottom: var(--foot, 30px);
    z-index: 4;
    width: auto;
    padding: 0 12px;
    border-left: 0;
    border-top: 1px solid rgb(var(--v-theme-line));
  }
  .fold {
    min-height: 44px;
  }
  .folded .fold {
    float: none;
    width: 100%;
  }
  .folded .fold::after {
    content: ' ▴';
  }
  .body {
    position: static;
    max-height: 45vh;
    padding: 8px 0 16px;
  }
}
</style>
