<script setup lang="ts">
import { computed, ref } from 'vue'

import { useWidth } from '@/parts/useWidth'

/** Speeds of a series in their order, with today's best and the line to stop at. */
const props = defineProps<{
  points: { id: string; value: number; side: string; counts: boolean; aside: boolean; set: number; name: string }[]
  best: number
  stop: number
  curve?: { ceiling: number; deficit: number; tau: number } | undefined
  unit: string
  chosen?: string | undefined
}>()
const emit = defineEmits<{ choose: [id: string] }>()

const H = 190
const PAD = { left: 44, right: 96, top: 14, bottom: 24 }
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 640)
const counted = computed(() => props.points.filter((p) => p.counts).map((p) => p.value))
const range = computed(() => {
  const all = [...counted.value, ...(props.stop ? [props.stop] : [])]
  if (all.length === 0) return [0, 1] as const
  const low = Math.min(...all)
  const high = Math.max(...all, props.curve?.ceiling ?? 0)
  const room = Math.max(0.6, (high - low) * 0.12)
  return [low - room, high + room] as const
})
const x = (i: number) =>
  PAD.left + ((i + 0.5) / Math.max(props.points.length, 8)) * (width.value - PAD.left - PAD.right)
function y(v: number) {
  const [low, high] = range.value
  const at = H - PAD.bottom - ((v - low) / (high - low)) * (H - PAD.top - PAD.bottom)
  return Math.min(H - PAD.bottom, Math.max(PAD.top - 6, at))
}
const curve = computed(() => {
  const c = props.curve
  if (!c) return ''
  return Array.from({ length: 60 }, (_, k) => {
    const n = (k / 59) * (props.points.length - 1)
    return `${x(n).toFixed(1)},${y(c.ceiling - c.deficit * Math.exp(-n / c.tau)).toFixed(1)}`
  }).join(' ')
})
const sets = computed(() =>
  props.points.map((p, i) => ({ i, set: p.set })).filter((p, i, all) => i > 0 && p.set !== all[i - 1]?.set),
)
const words = computed(
  () =>
    `${props.points.length} swings, best ${props.best.toFixed(1)} ${props.unit}${props.stop ? `, stop below ${props.stop.toFixed(1)}` : ''}`,
)
</script>

<template>
  <svg ref="svg" :viewBox="`0 0 ${width} ${H}`" :height="H" class="series" role="img" :aria-label="words">
    <line
      v-for="s in sets"
      :key="s.i"
      :x1="x(s.i - 0.5)"
      :x2="x(s.i - 0.5)"
      :y1="PAD.top"
      :y2="H - PAD.bottom"
      class="set"
    />
    <template v-if="props.best">
      <line :x1="PAD.left" :x2="width - PAD.right" :y1="y(props.best)" :y2="y(props.best)" class="best" />
      <text :x="width - PAD.right + 6" :y="y(props.best) + 4">best {{ props.best.toFixed(1) }}</text>
    </template>
    <template v-if="props.stop">
      <line :x1="PAD.left" :x2="width - PAD.right" :y1="y(props.stop)" :y2="y(props.stop)" class="stopline" />
      <text :x="width - PAD.right + 6" :y="y(props.stop) + 4" class="stoptext">stop {{ props.stop.toFixed(1) }}</text>
    </template>
    <polyline v-if="curve" :points="curve" class="curve" />
    <g
      v-for="(p, i) in props.points"
      :key="p.id"
      :class="['point', { out: !p.counts, aside: p.aside, chosen: p.id === props.chosen }]"
      @click="emit('choose', p.id)"
    >
      <title>{{ p.name }}</title>
      <rect :x="x(i) - 12" :y="PAD.top" width="24" :height="H - PAD.top - PAD.bottom" class="hit" />
      <path v-if="p.side === 'other'" :d="`M${x(i)} ${y(p.value) - 6}l6 6l-6 6l-6 -6z`" />
      <circle v-else :cx="x(i)" :cy="y(p.value)" r="5" />
      <text v-if="!p.counts" :x="x(i)" :y="y(p.value) - 9" text-anchor="middle">×</text>
    </g>
    <text :x="PAD.left - 6" :y="y(range[1]) + 10" text-anchor="end" class="axis">{{ range[1].toFixed(0) }}</text>
    <text :x="PAD.left - 6" :y="y(range[0])" text-anchor="end" class="axis">{{ range[0].toFixed(0) }}</text>
    <text :x="PAD.left" :y="H - 6" class="axis">swing 1</text>
    <text v-if="props.points.length > 3" :x="x(props.points.length - 1)" :y="H - 6" text-anchor="middle" class="axis">
      {{ props.points.length }}
    </text>
  </svg>
</template>

<style scoped>
.series {
  width: 100%;
  display: block;
}
text {
  font-size: 13px;
  fill: currentcolor;
}
.axis {
  fill: rgba(var(--v-theme-on-surface), 0.76);
}
.set {
  stroke: rgb(var(--v-theme-line));
}
.best {
  stroke: rgb(var(--v-theme-primary));
  stroke-dasharray: 1 4;
  stroke-width: 1.6;
}
.stopline {
  stroke: rgb(var(--v-theme-error));
  stroke-dasharray: 7 4;
  stroke-width: 1.6;
}
.stoptext {
  fill: rgb(var(--v-theme-error));
}
.curve {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.6;
}
.hit {
  fill: transparent;
}
.point {
  cursor: pointer;
  fill: rgb(var(--v-theme-primary));
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.6;
}
.point text {
  stroke: none;
}
.point .hit {
  stroke: none;
}
.point.out {
  fill: rgb(var(--v-theme-surface));
  stroke: rgba(var(--v-theme-on-surface), 0.5);
}
.point.aside {
  opacity: 0.45;
}
.point.chosen {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 3;
}
</style>
