<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useTemplateRef } from 'vue'

import { signed } from '@/parts/words'
import { at as valueAt, thinned, ticks } from '@/views/force/trace'

import { eventRows } from './eventRows'
import { useWidth } from '@/parts/useWidth'

export interface TraceLine {
  name: string
  values: Float32Array
  /** What a value is divided by before it is drawn. */
  by: number
  look: 'solid' | 'dashed' | 'thick' | 'thin' | 'dotted'
  colour: string
}
export interface TraceEvent {
  key: string
  name: string
  t: number
  movable?: boolean
  /** Drawn dashed: an estimate. */
  guess?: boolean
}
export interface TracePart {
  name: string
  from: number
  to: number
}

/**
 * Signals over time with events on the axis. Events are dragged, or moved with the arrow keys by one sample, with Shift
 * by ten; the wheel and two fingers zoom, dragging the plot moves the cursor.
 */
const props = defineProps<{
  lines: TraceLine[]
  rate: number
  start: number
  unit: string
  events: TraceEvent[]
  parts?: TracePart[]
  label: string
  from: number
  to: number
  decimals?: number
}>()
const cursor = defineModel<number>('cursor', { required: true })
const emit = defineEmits<{ move: [key: string, t: number]; moving: [key: string, t: number]; view: [number, number] }>()

const H = 280
const left = 48
const right = 12
const top = 22
const bottom = 44
const svg = useTemplateRef<SVGSVGElement>('svg')
const W = useWidth(svg, 760)
defineExpose({ svg })

const sampleOf = (t: number) => (t - props.start) * props.rate
const x = (t: number) => left + ((t - props.from) / (props.to - props.from)) * (W.value - left - right)
const timeAt = (px: number) => props.from + ((px - left) / (W.value - left - right)) * (props.to - props.from)

const drawn = computed(() =>
  props.lines.map((l) => ({
    ...l,
    points: thinned(l.values, sampleOf(props.from), sampleOf(props.to), W.value - left - right),
  })),
)
const range = computed(() => {
  let low = 0
  let high = 0
  for (const l of drawn.value) {
    for (let i = 1; i < l.points.length; i += 2) {
      low = Math.min(low, valueAt(l.points, i) / l.by)
      high = Math.max(high, valueAt(l.points, i) / l.by)
    }
  }
  return { low: low * 1.05, high: high * 1.08 || 1 }
})
const y = (v: number) => top + ((range.value.high - v) / (range.value.high - range.value.low)) * (H - top - bottom)
const paths = computed(() =>
  drawn.value.map((l) => {
    let d = ''
    for (let i = 0; i < l.points.length; i += 2)
      d += `${i ? 'L' : 'M'}${x(props.start + valueAt(l.points, i) / props.rate).toFixed(1)},${y(valueAt(l.points, i + 1) / l.by).toFixed(1)}`
    return { ...l, d }
  }),
)
const yTicks = computed(() => ticks(range.value.low, range.value.high, 5))
const xTicks = computed(() => ticks(props.from, props.to, W.value / 90).filter((t) => x(t) < W.value - right - 14))
const shown = (v: number) => signed(v, Math.abs(range.value.high) < 5 ? 1 : 0)
const inView = computed(() => props.events.filter((e) => e.t >= props.from && e.t <= props.to))
const rowOf = computed(() => eventRows(inView.value.map((e) => ({ key: e.key, at: x(e.t) }))))
const partsInView = computed(() =>
  (props.parts ?? [])
    .map((p) => ({ ...p, from: Math.max(p.from, props.from), to: Math.min(p.to, props.to) }))
    .filter((p) => p.to > p.from),
)

const dragged = ref('')
function at(e: MouseEvent): number {
  const box = svg.value?.getBoundingClientRect()
  return box ? timeAt(((e.clientX - box.left) / box.width) * W.value) : props.from
}
function clamp(t: number) {
  const n = props.lines[0]?.values.length ?? 1
  return Math.min(Math.max(t, props.start), props.start + (n - 1) / props.rate)
}
function down(e: PointerEvent, key = '') {
  dragged.value = key || 'cursor'
  svg.value?.setPointerCapture(e.pointerId)
  if (!key) cursor.value = clamp(at(e))
  e.stopPropagation()
}
function moved(e: PointerEvent) {
  if (!dragged.value) return
  const t = clamp(at(e))
  if (dragged.value === 'cursor') cursor.value = t
  else emit('moving', dragged.value, t)
}
function up(e: PointerEvent) {
  if (dragged.value && dragged.value !== 'cursor') emit('move', dragged.value, clamp(at(e)))
  dragged.value = ''
}
function key(e: KeyboardEvent, ev?: TraceEvent) {
  const step = (e.shiftKey ? 10 : 1) / props.rate
  const by = { ArrowLeft: -step, ArrowRight: step }[e.key]
  if (by === undefined) return
  e.preventDefault()
  if (ev) nudge(ev.key, clamp(ev.t + by))
  else cursor.value = clamp(cursor.value + by)
}
/** Keys come fast: the move counts when they rest. */
let rest: ReturnType<typeof setTimeout> | undefined
function nudge(key: string, t: number) {
  emit('moving', key, t)
  clearTimeout(rest)
  rest = setTimeout(() => emit('move', key, t), 350)
}
onBeforeUnmount(() => clearTimeout(rest))
function wheel(e: WheelEvent) {
  if (!e.ctrlKey && !e.shiftKey) return // the page scrolls
  e.preventDefault()
  zoom(Math.exp((e.deltaY || e.deltaX) / 400), at(e))
}
function zoom(by: number, about: number) {
  emit('view', about - (about - props.from) * by, about + (props.to - about) * by)
}
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${W} ${H}`"
    class="plot"
    role="group"
    :aria-label="props.label"
    @pointerdown="down($event)"
    @pointermove="moved"
    @pointerup="up"
    @wheel="wheel"
  >
    <g v-for="p in partsInView" :key="p.name">
      <rect :x="x(p.from)" :width="x(p.to) - x(p.from)" :y="top" :height="H - top - bottom" class="part" />
      <text v-if="x(p.to) - x(p.from) > 44" :x="(x(p.from) + x(p.to)) / 2" :y="top - 6" text-anchor="middle">
        {{ p.name }}
      </text>
    </g>
    <g v-for="t in yTicks" :key="'y' + t">
      <line :x1="left" :x2="W - right" :y1="y(t)" :y2="y(t)" :class="['grid', { zero: t === 0 }]" />
      <text :x="left - 6" :y="y(t) + 4" text-anchor="end">{{ shown(t) }}</text>
    </g>
    <text x="4" :y="top - 8">{{ props.unit }}</text>
    <g v-for="t in xTicks" :key="'x' + t">
      <line :x1="x(t)" :x2="x(t)" :y1="H - bottom" :y2="H - bottom + 4" class="grid" />
      <text :x="x(t)" :y="H - bottom + 16" text-anchor="middle">{{ t.toFixed(props.decimals ?? 1) }}</text>
    </g>
    <text :x="W - right" :y="H - bottom + 16" text-anchor="end">s</text>
    <path v-for="l in paths" :key="l.name" :d="l.d" :class="['line', l.look]" :style="{ stroke: l.colour }" />
    <line
      v-if="cursor >= props.from && cursor <= props.to"
      :x1="x(cursor)"
      :x2="x(cursor)"
      :y1="top"
      :y2="H - bottom"
      class="cursor"
    />
    <rect
      v-if="cursor >= props.from && cursor <= props.to"
      :x="x(cursor) - 8"
      :y="top"
      width="16"
      :height="H - top - bottom"
      fill="transparent"
      class="grip"
      tabindex="0"
      role="slider"
      aria-label="Time shown in the foot plan"
      :aria-valuenow="Number(cursor.toFixed(3))"
      :aria-valuemin="props.start"
      :aria-valuetext="`${cursor.toFixed(3)} s`"
      @pointerdown="down($event)"
      @keydown="key($event)"
    />
    <g
      v-for="e in inView"
      :key="e.key"
      :class="['event', { movable: e.movable, guess: e.guess }]"
      :tabindex="e.movable ? 0 : undefined"
      :role="e.movable ? 'slider' : undefined"
      :aria-label="e.movable ? `${e.name}: arrow keys move it` : undefined"
      :aria-valuenow="Number(e.t.toFixed(4))"
      :aria-valuetext="`${e.t.toFixed(3)} s`"
      :data-testid="'event-' + e.key"
      @pointerdown="e.movable && down($event, e.key)"
      @keydown="e.movable && key($event, e)"
    >
      <line :x1="x(e.t)" :x2="x(e.t)" :y1="top" :y2="H - bottom + 4" />
      <rect :x="x(e.t) - 11" :y="top" width="22" :height="H - top" fill="transparent" class="hit" />
      <path v-if="e.movable" :d="`M${x(e.t)},${H - bottom}l-5,7h10z`" />
      <text :x="Math.min(x(e.t), W - 24)" :y="H - 14 + (rowOf.get(e.key) ?? 0) * 12" text-anchor="middle">
        {{ e.name }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.plot {
  width: 100%;
  display: block;
  touch-action: pan-y;
  user-select: none;
}
.part {
  fill: rgb(var(--v-theme-band));
  fill-opacity: 0.45;
  stroke: rgb(var(--v-theme-background));
}
.grid {
  stroke: rgba(var(--v-theme-on-surface), 0.14);
}
.grid.zero {
  stroke: rgba(var(--v-theme-on-surface), 0.45);
}
.line {
  fill: none;
  stroke-width: 1.7;
  stroke-linejoin: round;
}
.line.thick {
  stroke-width: 2.6;
}
.line.thin {
  stroke-width: 1.1;
}
.line.dashed {
  stroke-dasharray: 6 4;
}
.line.dotted {
  stroke-dasharray: 1.5 3;
}
.cursor {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 1.5;
}
.grip {
  cursor: ew-resize;
}
.event line {
  stroke: rgba(var(--v-theme-on-surface), 0.55);
}
.event.guess line {
  stroke-dasharray: 3 3;
}
.event path {
  fill: rgb(var(--v-theme-secondary));
}
.event.movable {
  cursor: ew-resize;
}
.event:focus-visible line {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 3;
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
