<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/**
 * One test on the axis of spreads from target: pale band the target, filled mark and solid whisker the first side,
 * open mark and dashed whisker the second, whisker the test's own error. Not measured is a dash on a dotted line.
 */
const props = defineProps<{ test: Schemas['TestRead'] }>()

const MIN = -3
const MAX = 2
/** Where a number stands between the two ends, 0 to 1. */
const place = (v: number) => (Math.min(MAX, Math.max(MIN, v)) - MIN) / (MAX - MIN)
const percent = (part: number) => `${(part * 100).toFixed(2)}%`
const x = (v: number) => percent(place(v))

const marks = computed(() =>
  props.test.sides
    .filter((s) => s.position !== undefined)
    .map((s) => ({
      side: s.side,
      open: ['trail', 'away', 'other'].includes(s.side),
      at: x(s.position ?? 0),
      high: place(s.position ?? 0) > 0.5,
      from: x((s.position ?? 0) - (s.errorSpreads ?? 0)),
      to: x((s.position ?? 0) + (s.errorSpreads ?? 0)),
      beyond: (s.position ?? 0) > MAX || (s.position ?? 0) < MIN,
      words: `${s.side || 'result'} ${(s.position ?? 0).toFixed(2)} spreads from target`,
    })),
)
const words = computed(() =>
  marks.value.length
    ? marks.value.map((m) => m.words).join(', ')
    : `${props.test.name}: ${props.test.status.replace('-', ' ')}`,
)
</script>

<template>
  <svg class="strip" height="26" role="img" :aria-label="words">
    <title>{{ props.test.sentence }}</title>
    <rect :x="x(-0.5)" :width="percent(place(0.5) - place(-0.5))" y="2" height="22" class="band" />
    <line :x1="x(0)" :x2="x(0)" y1="2" y2="24" class="target" />
    <line x1="0" x2="100%" y1="13" y2="13" :class="marks.length ? 'axis' : 'axis dotted'" />
    <text v-if="marks.length === 0" :x="x(-1.5)" y="17" class="dash">–</text>
    <g
      v-for="(m, i) in marks"
      :key="m.side"
      :transform="marks.length > 1 ? `translate(0 ${i === 0 ? -4 : 4})` : undefined"
    >
      <line :x1="m.from" :x2="m.to" y1="13" y2="13" :class="['whisker', { open: m.open }]" />
      <circle :cx="m.at" cy="13" r="4.6" :class="['mark', { open: m.open }]" />
      <text v-if="m.beyond" :x="m.at" :dx="m.high ? -14 : 8" y="16" class="small">{{ m.high ? '›' : '‹' }}</text>
    </g>
  </svg>
</template>

<style scoped>
.strip {
  width: 100%;
  display: block;
}
.band {
  fill: rgb(var(--v-theme-band));
}
.target {
  stroke: rgb(var(--v-theme-secondary));
}
.axis {
  stroke: rgba(var(--v-theme-on-surface), 0.25);
}
.axis.dotted {
  stroke-dasharray: 2 4;
}
.dash {
  fill: rgba(var(--v-theme-on-surface), 0.8);
  font-size: 16px;
}
.whisker {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.whisker.open {
  stroke-dasharray: 4 3;
}
.mark {
  fill: rgb(var(--v-theme-primary));
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.mark.open {
  fill: rgb(var(--v-theme-surface));
}
</style>
