<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import type { Schemas } from '@/api/client'

import { useTurns } from '@/parts/turns'

import { steps } from './steps'

const props = defineProps<{ golferId: string; says: Schemas['Athlete']['path'] | undefined }>()
const path = ref<HTMLElement | null>(null)
const route = useRoute()
/** The page itself is drawn before the way to others. */
const drawn = useTurns(() => 2)
/** Where the steps do not fit side by side, the one that is shown is in sight. */
const bring = () =>
  requestAnimationFrame(() =>
    path.value?.querySelector('.router-link-active')?.scrollIntoView({ block: 'nearest', inline: 'center' }),
  )
watch([() => route.name, drawn], bring, { flush: 'post' })
</script>

<template>
  <nav ref="path" class="path no-print" aria-label="Work path">
    <span v-if="drawn < 2" class="step">&nbsp;</span>
    <router-link
      v-for="s in drawn > 1 ? steps : []"
      :key="s.name"
      :to="{ name: s.name, params: { id: props.golferId } }"
      :title="props.says?.[s.name]"
      class="step"
    >
      <span class="title">{{ s.title }}</span>
      <span class="small quiet">{{ props.says?.[s.name] ?? '\u00a0' }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.path {
  display: flex;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  padding: 0 16px;
  background: rgb(var(--v-theme-background));
}
@media (max-width: 1360px) {
  .path {
    overflow-x: auto;
  }
  .step:not(.router-link-active) .small {
    display: none;
  }
}
.step {
  padding: 6px 8px 6px 0;
  margin-right: 18px;
  text-decoration: none;
  color: inherit;
  display: flex;
  flex: 0 1 auto;
  min-width: fit-content;
  min-height: 32px;
  gap: 8px;
  align-items: baseline;
  white-space: nowrap;
}
.title {
  font-weight: 600;
}
@media (pointer: coarse) {
  .step {
    padding-right: 14px;
    margin-right: 12px;
    min-height: 44px;
    align-items: center;
  }
}
.router-link-active {
  box-shadow: inset 0 -3px 0 rgb(var(--v-theme-secondary));
}
</style>
