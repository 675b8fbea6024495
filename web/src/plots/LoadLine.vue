<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'

import { useWidth } from '@/parts/useWidth'

/** Best speed by the mass swung, with the line through it and its band; both sides of the body on one plot. */
type Profile = Schemas['SpeedProfile']
const props = defineProps<{
  profile: Profile
  other?: Profile | undefined
  own: number
  show: (mps: number) => number
  unit: string
}>()

const H = 170
const PAD = { left: 40, right: 16, top: 12, bottom: 28 }
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 278)
const both = computed(() => [props.profile, ...(props.other ? [props.other] : [])])
const xs = computed(() => both.value.flatMap((p) => p.points.map((q) => q.massG)))
const ys = computed(() => both.value.flatMap((p) => [...p.points.map((q) => q.bestMps), ...p.line.map((l) => l.mps)]))
const lowX = computed(() => Math.min(...xs.value, props.own) - 15)
const highX = computed(() => Math.max(...xs.value, props.own) + 15)
const lowY = computed(() => Math.min(...ys.value) - 1)
const highY = computed(() => Math.max(...ys.value) + 1)
const x = (v: number) =>
  PAD.left + ((v - lowX.value) / (highX.value - lowX.value)) * (width.value - PAD.left - PAD.right)
const y = (v: number) =>
  Math.min(
    H - PAD.bottom,
    Math.max(PAD.top, H - PAD.bottom - ((v - lowY.value) / (highY.value - lowY.value)) * (H - PAD.top - PAD.bottom)),
  )
const line = (p: Profile) => p.line.map((l) => `${x(l.massG).toFixed(1)},${y(l.mps).toFixed(1)}`).join(' ')
function band(p: Profile) {
  const with_ = p.line.filter((l) => l.band)
  if (with_.length === 0) return ''
  const up = with_.map((l) => `${x(l.massG).toFixed(1)},${y(l.band?.high ?? 0).toFixed(1)}`)
  const down = with_.map((l) => `${x(l.massG).toFixed(1)},${y(l.band?.low ?? 0).toFixed(1)}`).reverse()
  return [...up, ...down].join(' ')
}
const words = computed(() =>
  props.profile.points
    .map((p) => `${p.massG.toFixed(0)} g ${props.show(p.bestMps).toFixed(1)} ${props.unit}`)
    .join(', '),
)
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${width} ${H}`"
    :height="H"
    class="load"
    role="img"
    :aria-label="`Best speed by mass: ${words}`"
  >
    <polygon v-if="band(props.profile)" :points="band(props.profile)" class="band" />
    <line :x1="x(props.own)" :x2="x(props.own)" :y1="PAD.top" :y2="H - PAD.bottom" class="own" />
    <template v-for="(p, k) in both" :key="k">
      <polyline :points="line(p)" :class="['line', { second: k === 1 }]" />
      <template v-for="q in p.points" :key="q.massG">
        <path v-if="k === 1" :d="`M${x(q.massG)} ${y(q.bestMps) - 5}l5 5l-5 5l-5 -5z`" class="mark" />
        <circle v-else :cx="x(q.massG)" :cy="y(q.bestMps)" r="4.5" class="mark" />
      </template>
    </template>
    <text :x="PAD.left - 5" :y="y(highY) + 10" text-anchor="end">{{ props.show(highY).toFixed(0) }}</text>
    <text :x="PAD.left - 5" :y="y(lowY)" text-anchor="end">{{ props.show(lowY).toFixed(0) }}</text>
    <text :x="x(Math.min(...xs))" :y="H - 8" text-anchor="middle">{{ Math.min(...xs).toFixed(0) }} g</text>
    <text :x="x(Math.max(...xs))" :y="H - 8" text-anchor="middle">{{ Math.max(...xs).toFixed(0) }} g</text>
    <text
      v-if="props.own > Math.min(...xs) + 25 && props.own < Math.max(...xs) - 25"
      :x="x(props.own)"
      :y="H - 8"
      text-anchor="middle"
    >
      own
    </text>
  </svg>
</template>

<style scoped>
.load {
  width: 100%;
  display: block;
}
text {
  font-size: 13px;
  fill: rgba(var(--v-theme-on-surface), 0.76);
}
.band {
  fill: rgba(var(--v-theme-primary), 0.14);
}
.own {
  stroke: rgb(var(--v-theme-line));
  stroke-width: 1.4;
}
.line {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.8;
}
.line.second {
  stroke: rgb(var(--v-theme-secondary));
}
.mark {
  fill: rgb(var(--v-theme-primary));
}
path.mark {
  fill: rgb(var(--v-theme-secondary));
}
</style>
