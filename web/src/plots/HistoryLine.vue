<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'

import { dayAndYear } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/** One test through time, each result with its own error as a whisker; values are written at both ends. */
const props = defineProps<{
  points: { date: string; value: number }[]
  error: number
  open: boolean
  label: string
}>()

const svg = useTemplateRef<SVGSVGElement>('svg')
const W = useWidth(svg, 260)
const H = 64
const PAD = 42
const xs = computed(() => {
  const t = props.points.map((p) => Date.parse(p.date))
  const from = Math.min(...t)
  const span = Math.max(1, Math.max(...t) - from)
  return t.map((v) => PAD + ((v - from) / span) * (W.value - 2 * PAD))
})
const ys = computed(() => {
  const low = Math.min(...props.points.map((p) => p.value - props.error))
  const high = Math.max(...props.points.map((p) => p.value + props.error))
  const span = Math.max(1e-9, high - low)
  const y = (v: number) => H - 8 - ((v - low) / span) * (H - 20)
  return props.points.map((p) => ({ at: y(p.value), low: y(p.value - props.error), high: y(p.value + props.error) }))
})
const line = computed(() => xs.value.map((x, i) => `${x},${ys.value[i]?.at ?? 0}`).join(' '))
const words = computed(
  () => `${props.label}: ${props.points.map((p) => `${p.value} on ${dayAndYear(p.date)}`).join(', ')}`,
)
</script>

<template>
  <svg ref="svg" :height="H" :viewBox="`0 0 ${W} ${H}`" class="history" role="img" :aria-label="words">
    <polyline :points="line" :class="['line', { open: props.open }]" />
    <g v-for="(p, i) in props.points" :key="p.date">
      <line :x1="xs[i]" :x2="xs[i]" :y1="ys[i]?.low" :y2="ys[i]?.high" class="whisker" />
      <circle :cx="xs[i]" :cy="ys[i]?.at" r="3.6" :class="['mark', { open: props.open }]" />
    </g>
    <text :x="PAD - 6" :y="(ys[0]?.at ?? 0) + 4" text-anchor="end">{{ props.points[0]?.value }}</text>
    <text :x="W - PAD + 6" :y="(ys.at(-1)?.at ?? 0) + 4">{{ props.points.at(-1)?.value }}</text>
  </svg>
</template>

<style scoped>
.history {
  width: 100%;
  max-width: 280px;
  display: block;
}
.line {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.5;
}
.line.open {
  stroke-dasharray: 4 3;
}
.whisker {
  stroke: rgba(var(--v-theme-on-surface), 0.4);
}
.mark {
  fill: rgb(var(--v-theme-primary));
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.6;
}
.mark.open {
  fill: rgb(var(--v-theme-surface));
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
