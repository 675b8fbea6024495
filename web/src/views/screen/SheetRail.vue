<script setup lang="ts">
import type { Schemas } from '@/api/client'
import ReasonRail from '@/parts/ReasonRail.vue'

import type { Line } from './cells'
import TestRail from './TestRail.vue'

/** Beside the sheet: the test that is typed, and the keys. */
const props = defineProps<{
  athleteId: string
  line: Line | undefined
  read: Schemas['TestRead'] | undefined
  trials: Schemas['Trial'][]
  /** Whether the sheet was read: what stands below is not pushed down then. */
  ready: boolean
}>()
</script>

<template>
  <ReasonRail title="This test">
    <TestRail v-if="props.line" :test="props.line.test" :read="props.read" :trials="props.trials" />
    <p v-if="props.line && (props.line.test.flightTime || props.line.test.quality === 'ground-force')" class="small">
      From plates:
      <router-link :to="{ name: 'force', params: { id: props.athleteId } }">bring in or record force</router-link>
      fills this row.
    </p>
    <h3 v-if="props.ready">Keys</h3>
    <p v-if="props.ready" class="small">
      <kbd>Enter</kbd> or <kbd>Tab</kbd> next trial · <kbd>p</kbd> pain · <kbd>s</kbd> stopped · <kbd>k</kbd> skipped ·
      <kbd>f</kbd> a lift by fields · <kbd>v</kbd> how it is done · <kbd>r</kbd> record grip · <kbd>Ctrl Z</kbd> undo ·
      <kbd>Ctrl Y</kbd> redo · paste a block from a spreadsheet
    </p>
  </ReasonRail>
</template>

<style scoped>
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
</style>
