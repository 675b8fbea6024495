<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { dayAndYear } from '@/parts/days'
import { signed } from '@/parts/words'

import { useWidth } from '@/parts/useWidth'

/**
 * Differences of test and repeat against their mean: each pair a mark, the mean difference a solid line, the limits of
 * agreement dashed with their intervals as a pale band.
 */
const props = defineProps<{ test: Schemas['RepeatTest'] }>()

const svg = useTemplateRef<SVGSVGElement>('svg')
const W = useWidth(svg, 640)
/** Room for the words of the lines at the right. */
const R = 140
const H = 260
const L = 60
const B = 34
const r = computed(() => props.test.repeats)
const points = computed(() =>
  props.test.pairs.map((p, i) => ({
    x: (p.first + p.second) / 2,
    y: p.second - p.first,
    side: p.side ?? '',
    out: r.value?.outliers.includes(i) ?? false,
    words: `${p.golfer} ${p.side ?? ''}: ${p.first} on ${dayAndYear(p.firstDate)}, ${p.second} on ${dayAndYear(p.secondDate)}`,
  })),
)
const xr = computed(() => {
  const v = points.value.map((p) => p.x)
  const a = Math.min(...v)
  const b = Math.max(...v)
  const pad = Math.max((b - a) * 0.08, 0.5)
  return [a - pad, b + pad] as const
})
const yr = computed(() => {
  const v = points.value.map((p) => p.y)
  const m = r.value
  const all = m ? [...v, m.lowerLimitInterval.low, m.upperLimitInterval.high] : v
  const a = Math.min(0, ...all)
  const b = Math.max(0, ...all)
  const pad = Math.max((b - a) * 0.06, 0.1)
  return [a - pad, b + pad] as const
})
const x = (v: number) => L + ((v - xr.value[0]) / (xr.value[1] - xr.value[0])) * (W.value - L - R)
const y = (v: number) => H - B - ((v - yr.value[0]) / (yr.value[1] - yr.value[0])) * (H - B - 12)
const fmt = (v: number) => signed(v, props.test.decimals + 1)
const lines = computed(() =>
  r.value
    ? [
        { v: r.value.limits.high, ci: r.value.upperLimitInterval, words: 'upper limit', dashed: true },
        { v: r.value.meanChange, ci: r.value.changeInterval, words: 'mean', dashed: false },
        { v: r.value.limits.low, ci: r.value.lowerLimitInterval, words: 'lower limit', dashed: true },
      ]
    : [],
)
const unit = computed(() => (props.test.unit === 'deg' ? '°' : props.test.unit))
</script>

<template>
  <svg
    ref="svg"
    :height="H"
    :viewBox="`0 0 ${W} ${H}`"
    class="plot"
    role="img"
    :aria-label="`Differences of ${points.length} pairs of ${props.test.name}`"
  >
    <template v-for="l in lines" :key="l.words">
      <rect
        v-if="l.dashed"
        :x="L"
        :width="W - L - R"
        :y="y(l.ci.high)"
        :height="Math.max(1, y(l.ci.low) - y(l.ci.high))"
        class="ci"
      />
      <line :x1="L" :x2="W - R" :y1="y(l.v)" :y2="y(l.v)" :class="['limit', { dashed: l.dashed }]" />
      <text :x="W - R + 6" :y="y(l.v) + 4">{{ l.words }} {{ fmt(l.v) }}</text>
    </template>
    <line :x1="L" :x2="W - R" :y1="y(0)" :y2="y(0)" class="zero" />
    <g v-for="(p, i) in points" :key="i">
      <title>{{ p.words }}</title>
      <circle
        :cx="x(p.x)"
        :cy="y(p.y)"
        r="5"
        :class="['mark', { open: ['trail', 'away', 'other'].includes(p.side) }]"
      />
      <circle v-if="p.out" :cx="x(p.x)" :cy="y(p.y)" r="9" class="out" />
    </g>
    <text :x="L - 8" :y="y(0) + 4" text-anchor="end">0</text>
    <text :x="L - 8" :y="y(yr[1]) + 12" text-anchor="end">{{ fmt(yr[1]) }}</text>
    <text :x="L - 8" :y="y(yr[0])" text-anchor="end">{{ fmt(yr[0]) }}</text>
    <text :x="x(xr[0])" :y="H - 16">{{ xr[0].toFixed(props.test.decimals) }}</text>
    <text :x="x(xr[1])" :y="H - 16" text-anchor="end">{{ xr[1].toFixed(props.test.decimals) }}</text>
    <text :x="L" :y="H - 2">mean of both, {{ unit }} (across); second − first, {{ unit }} (up)</text>
  </svg>
</template>

<style scoped>
.plot {
  width: 100%;
  max-width: 720px;
  display: block;
}
.ci {
  fill: rgb(var(--v-theme-band));
  opacity: 0.5;
}
.limit {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.6;
}
.limit.dashed {
  stroke-dasharray: 6 4;
}
.zero {
  stroke: rgba(var(--v-theme-on-surface), 0.35);
}
.mark {
  fill: rgb(var(--v-theme-primary));
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.8;
}
.mark.open {
  fill: rgb(var(--v-theme-surface));
}
.out {
  fill: none;
  stroke: rgb(var(--v-theme-warning));
  stroke-width: 1.6;
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
