<script setup lang="ts">
import { computed, ref } from 'vue'

import { dayAndYear } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/**
 * One measure through time on an axis that is shared with the rows above and below: a band of one typical error around
 * each result, lead filled and solid, trail open and dashed, the target as a fine line, the ends written.
 */
interface Line {
  side: string
  points: { date: string; value: number }[]
  error: number
  target?: number | undefined
}
const props = defineProps<{
  lines: Line[]
  from: string
  to: string
  label: string
  height?: number
  decimals: number
}>()
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 620)
const H = computed(() => props.height ?? 58)
const PAD = 6
const RIGHT = 46
const open = (side: string) => ['trail', 'away', 'other'].includes(side)
const span = computed(() => Math.max(1, Date.parse(props.to) - Date.parse(props.from)))
const x = (date: string) =>
  PAD + ((Date.parse(date) - Date.parse(props.from)) / span.value) * (width.value - PAD - RIGHT)
const all = computed(() =>
  props.lines.flatMap((l) => [
    ...l.points.flatMap((p) => [p.value - l.error, p.value + l.error]),
    ...(l.target === undefined ? [] : [l.target]),
  ]),
)
const y = (v: number) => {
  const low = Math.min(...all.value)
  const high = Math.max(...all.value)
  return H.value - 8 - ((v - low) / Math.max(1e-9, high - low)) * (H.value - 16)
}
const drawn = computed(() =>
  props.lines.map((l) => {
    const top = l.points.map((p) => `${x(p.date)},${y(p.value + l.error)}`)
    const bottom = l.points.map((p) => `${x(p.date)},${y(p.value - l.error)}`).reverse()
    return {
      ...l,
      open: open(l.side),
      band: [...top, ...bottom].join(' '),
      path: l.points.map((p) => `${x(p.date)},${y(p.value)}`).join(' '),
      marks: l.points.map((p) => ({
        x: x(p.date),
        y: y(p.value),
        low: y(p.value - l.error),
        high: y(p.value + l.error),
      })),
      last: l.points.at(-1),
    }
  }),
)
/** What the last results are written at, never over each other. */
const ends = computed(() => {
  const out = drawn.value.flatMap((l) =>
    l.last ? [{ y: y(l.last.value) + 4, x: x(l.last.date), text: l.last.value }] : [],
  )
  const [a, b] = out
  if (a && b && Math.abs(a.y - b.y) < 12) {
    const middle = (a.y + b.y) / 2
    const up = a.y <= b.y
    a.y = middle + (up ? -6 : 6)
    b.y = middle + (up ? 6 : -6)
  }
  return out
})
const target = computed(() => props.lines.find((l) => l.target !== undefined)?.target)
const words = computed(
  () =>
    `${props.label}: ${props.lines.map((l) => `${l.side ? l.side + ' ' : ''}${l.points.map((p) => `${p.value} on ${dayAndYear(p.date)}`).join(', ')}`).join('; ')}`,
)
</script>

<template>
  <svg ref="svg" :viewBox="`0 0 ${width} ${H}`" :height="H" class="row" role="img" :aria-label="words">
    <line v-if="target !== undefined" :x1="PAD" :x2="width - RIGHT" :y1="y(target)" :y2="y(target)" class="target" />
    <g v-for="l in drawn" :key="l.side">
      <polygon v-if="l.points.length > 1" :points="l.band" class="band" />
      <polyline :points="l.path" :class="['line', { open: l.open }]" />
      <g v-for="m in l.marks" :key="m.x">
        <line :x1="m.x" :x2="m.x" :y1="m.low" :y2="m.high" class="whisker" />
        <circle :cx="m.x" :cy="m.y" r="3.8" :class="['mark', { open: l.open }]" />
      </g>
    </g>
    <text v-for="(e, i) in ends" :key="i" :x="e.x + 9" :y="e.y">{{ e.text.toFixed(props.decimals) }}</text>
  </svg>
</template>

<style scoped>
.row {
  width: 100%;
  display: block;
}
.band {
  fill: rgba(var(--v-theme-primary), 0.13);
}
.line {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.6;
}
.line.open {
  stroke-dasharray: 4 3;
}
.whisker {
  stroke: rgba(var(--v-theme-on-surface), 0.4);
}
.target {
  stroke: rgba(var(--v-theme-secondary), 0.8);
  stroke-dasharray: 1 3;
}
.mark {
  fill: rgb(var(--v-theme-primary));
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.6;
}
.mark.open {
  fill: rgb(var(--v-theme-background));
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
