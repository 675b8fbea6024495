<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { ref } from 'vue'

import { useUi } from './ui'

const ui = useUi()
/** How high the strip is stands in the page: what lies above it must know. */
const foot = ref<HTMLElement | null>(null)
useResizeObserver(
  foot,
  ([strip]) => {
    const height = strip?.borderBoxSize[0]?.blockSize ?? 0
    document.documentElement.style.setProperty('--foot', `${Math.round(height)}px`)
  },
  { box: 'border-box' },
)
const words = { idle: '', saving: 'Saving…', saved: 'Saved', unsent: 'Not sent yet', refused: 'Not saved' } as const
</script>

<template>
  <footer ref="foot" class="foot small no-print">
    <span
      data-testid="save-state"
      class="state"
      :class="{ stop: ui.save === 'refused', attention: ui.save === 'unsent' }"
      aria-live="polite"
      >{{ words[ui.save] }}{{ ui.saveText ? ': ' + ui.saveText : '' }}</span
    >
    <span id="foot-actions" class="actions" />
    <span class="quiet">Not medical advice and no substitute for a licensed practitioner; local rules apply.</span>
  </footer>
</template>

<style scoped>
.foot {
  position: fixed;
  inset: auto 0 0 0;
  min-height: 30px;
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding: 2px 16px;
  background: rgb(var(--v-theme-surface));
  border-top: 1px solid rgb(var(--v-theme-line));
  z-index: 5;
}
/* Where there is no room for it beside what is done here, it stands in a line of its own. */
@media (max-width: 900px) {
  .foot .quiet {
    flex-basis: 100%;
    order: 1;
  }
}
/* A phone has no room for it at all once there is something to do. */
@media (max-width: 700px) {
  .actions:not(:empty) + .quiet {
    display: none;
  }
}
/* What is said here never moves what is beside it: a thumb may be on its way. */
.state {
  min-width: 84px;
  max-width: 320px;
}
@media (max-width: 900px) {
  .foot {
    flex-wrap: wrap;
    gap: 2px 8px;
  }
  .state {
    position: absolute;
    top: 4px;
    right: 12px;
    min-width: 0;
    max-width: 50%;
  }
  .actions {
    flex-basis: 100%;
    min-width: 0;
  }
}
.actions {
  display: flex;
  gap: 4px;
  flex: 1;
}
</style>
