<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { addDays, daysBetween, longDay, monday, shortDay } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/**
 * The season as weeks from left to right: the parts of the year as a band, blocks with what each week holds, days away,
 * and competitions as pennants that are dragged, or moved by the arrow keys a day, with Shift a week.
 */
const props = defineProps<{
  season: Schemas['Season']
  events: Schemas['Competition'][]
  away: { from: string; to: string }[]
  today: string
  at: number
  /** Days that are shown and move nothing. */
  marks?: Schemas['DayMark'][]
  /** What a press on the season does beside choosing a block. */
  tool?: '' | 'event' | 'away'
}>()
const emit = defineEmits<{
  move: [event: number, date: string]
  choose: [block: number]
  weeks: [block: number, weeks: number]
  dropEvent: [date: string]
  markAway: [from: string, to: string]
}>()
/** The days being marked, from the press to where the pointer is. */
const marking = ref<[string, string]>()
function pressTool(event: PointerEvent) {
  if (!props.tool) return
  const day = dayAt(event)
  if (props.tool === 'event') {
    emit('dropEvent', day)
    return
  }
  marking.value = [day, day]
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function dragTool(event: PointerEvent) {
  if (marking.value) marking.value = [marking.value[0], dayAt(event)]
}
function dropTool() {
  const m = marking.value
  marking.value = undefined
  if (!m) return
  const [from, to] = m[0] <= m[1] ? m : [m[1], m[0]]
  emit('markAway', from, to)
}

const H = 128
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 900)
const start = computed(() => monday(props.season.start))
const total = computed(() => Math.max(7, daysBetween(start.value, props.season.end) + 8))
const x = (date: string) => (daysBetween(start.value, date) / total.value) * width.value
const phaseOf = (b: Schemas['SeasonBlock']) => b.phase.replace('-', ' ')
const blocks = computed(() =>
  props.season.blocks.map((b, i) => {
    const left = x(b.start)
    const wide = x(addDays(b.end, 1)) - left
    const week = wide / Math.max(b.rows.length, 1)
    return {
      i,
      left,
      wide,
      b,
      rows: b.rows.map((row, k) => ({ row, x: left + k * week, w: week, h: heightOf(row) })),
      title: `${phaseOf(b)}, ${b.rows.length} ${b.rows.length === 1 ? 'week' : 'weeks'} from ${longDay(b.start)}: ${b.leads.join(' and ') || 'nothing leads'}`,
      label: b.kind === 'block' ? b.leads.join(' and ') || 'even mix' : b.kind === 'event' ? 'event week' : b.kind,
    }
  }),
)
/** A rising week stands higher than the one before; an easier one and a taper lower. */
function heightOf(row: string) {
  if (row === 'easier') return 14
  if (row === 'taper') return 12
  if (row === 'quiet' || row === 'lost') return 4
  return 18 + 7 * Math.min(Number(row) || 1, 4)
}
const months = computed(() => {
  const out: { x: number; name: string }[] = []
  for (let d = 0; d < total.value; d++) {
    const day = addDays(start.value, d)
    if (day.endsWith('-01')) out.push({ x: x(day), name: shortDay(day).slice(2) })
  }
  return out
})
/** How many signs ", Mon 28 Dec" has. */
const DAY_SIGNS = 12
/** How far the second row of names stands below the first. */
const ROW = 17
/** Names that would lie over each other stand in two rows; one that would run out stands left of its pole. */
const shown = computed(() => {
  const ends = [-1, -1]
  return props.events
    .map((e, i) => ({ ...e, i, x: x(e.date) }))
    .filter((e) => e.x >= 0 && e.x <= width.value)
    .sort((a, b) => a.x - b.x)
    .map((e) => {
      const wide = (e.name.length + DAY_SIGNS) * 6.6 + 20
      const left = e.x + wide > width.value && e.x >= wide
      // With room on neither side it moves so far that it can be read to its end.
      const shift = left ? 0 : Math.max(0, Math.min(e.x, e.x + wide - width.value))
      const from = left ? e.x - wide : e.x - shift
      const row = from > (ends[0] ?? 0) ? 0 : 1
      ends[row] = from + wide
      return { ...e, row, left, shift }
    })
})

/** The end of a block that can be set, and where it is being dragged to. */
const edge = ref(-1)
const edgeAt = ref(0)
const weekWide = computed(() => (7 / total.value) * width.value)
const weeksAt = (i: number) => {
  const b = blocks.value[i]
  return b ? Math.min(Math.max(Math.round((edgeAt.value - b.left) / weekWide.value), 1), 8) : 0
}
function grabEdge(event: PointerEvent, i: number) {
  edge.value = i
  edgeAt.value = (blocks.value[i]?.left ?? 0) + (blocks.value[i]?.wide ?? 0)
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function dragEdge(event: PointerEvent) {
  const box = svg.value?.getBoundingClientRect()
  if (edge.value >= 0 && box) edgeAt.value = ((event.clientX - box.left) / box.width) * width.value
}
function dropEdge() {
  const i = edge.value
  edge.value = -1
  const b = blocks.value[i]
  if (b && weeksAt(i) !== b.b.rows.length) emit('weeks', i, weeksAt(i))
}
function edgeKey(event: KeyboardEvent, i: number) {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  const b = blocks.value[i]
  if (!by || !b) return
  event.preventDefault()
  emit('weeks', i, Math.min(Math.max(b.b.rows.length + by, 1), 8))
}
const settable = computed(() => blocks.value.filter((b) => b.b.kind === 'block' && !b.b.begun))

const held = ref(-1)
const over = ref('')
function dayAt(event: PointerEvent) {
  const box = svg.value?.getBoundingClientRect()
  if (!box) return ''
  const day = Math.round(((event.clientX - box.left) / box.width) * total.value)
  return addDays(start.value, Math.min(Math.max(day, 0), total.value - 1))
}
function grab(event: PointerEvent, i: number) {
  held.value = i
  over.value = props.events[i]?.date ?? ''
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  if (held.value >= 0) over.value = dayAt(event)
}
function drop() {
  const i = held.value
  held.value = -1
  if (i >= 0 && over.value && over.value !== props.events[i]?.date) emit('move', i, over.value)
}
function key(event: KeyboardEvent, i: number) {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  const date = props.events[i]?.date
  if (!by || !date) return
  event.preventDefault()
  emit('move', i, addDays(date, by * (event.shiftKey ? 7 : 1)))
}
</script>

<template>
  <svg ref="svg" :viewBox="`0 0 ${width} ${H}`" :height="H" class="season" role="group" aria-label="Season">
    <g v-for="m in months" :key="m.x">
      <line :x1="m.x" :x2="m.x" y1="0" :y2="H - 14" class="month" />
      <text :x="m.x + 3" :y="H - 3" class="quiet">{{ m.name }}</text>
    </g>
    <g
      v-for="b in blocks"
      :key="b.i"
      role="button"
      tabindex="0"
      :aria-label="b.title"
      :aria-pressed="b.i === props.at"
      class="block"
      :class="[b.b.phase, { on: b.i === props.at }]"
      @click="emit('choose', b.i)"
      @keydown.enter="emit('choose', b.i)"
    >
      <title>{{ b.title }}</title>
      <rect :x="b.left + 0.5" y="46" :width="Math.max(b.wide - 1, 1)" height="66" class="band" />
      <g v-for="(r, k) in b.rows" :key="k">
        <rect :x="r.x + 1.5" :y="112 - r.h" :width="Math.max(r.w - 3, 1)" :height="r.h" class="week" :class="r.row" />
      </g>
      <text v-if="b.wide > 44" :x="b.left + 4" y="58" class="label">
        {{ b.label.length * 6.2 > b.wide ? b.label.slice(0, Math.floor(b.wide / 6.2) - 1) + '…' : b.label }}
      </text>
    </g>
    <rect
      v-for="(a, i) in props.away"
      :key="'a' + i"
      :x="x(a.from)"
      y="46"
      :width="Math.max(x(addDays(a.to, 1)) - x(a.from), 2)"
      height="66"
      class="away"
    >
      <title>Away {{ longDay(a.from) }} to {{ longDay(a.to) }}</title>
    </rect>
    <g
      v-for="b in settable"
      :key="'e' + b.i"
      class="edge"
      role="slider"
      tabindex="0"
      :aria-label="`End of the block from ${longDay(b.b.start)}`"
      :aria-valuetext="`${edge === b.i ? weeksAt(b.i) : b.b.rows.length} weeks`"
      :transform="`translate(${edge === b.i ? b.left + weeksAt(b.i) * weekWide : b.left + b.wide} 0)`"
      @pointerdown="grabEdge($event, b.i)"
      @pointermove="dragEdge"
      @pointerup="dropEdge"
      @pointercancel="edge = -1"
      @keydown="edgeKey($event, b.i)"
    >
      <rect x="-6" y="46" width="12" height="66" class="grip" />
      <line x1="0" x2="0" y1="48" y2="110" :class="{ set: b.b.locked }" />
    </g>
    <g v-for="m in props.marks ?? []" :key="m.kind + m.date" class="mark">
      <title>
        {{ m.kind }}, {{ longDay(m.date) }}{{ m.minutes ? `, ${m.minutes} min` : '' }}{{ m.text ? `: ${m.text}` : '' }}
      </title>
      <rect :x="x(m.date) - 3" y="36" width="6" height="6" />
    </g>
    <rect
      v-if="marking"
      :x="Math.min(x(marking[0]), x(marking[1]))"
      y="46"
      :width="Math.max(Math.abs(x(marking[1]) - x(marking[0])), 2)"
      height="66"
      class="away"
    />
    <line v-if="x(props.today) >= 0" :x1="x(props.today)" :x2="x(props.today)" y1="34" y2="114" class="today" />
    <g
      v-for="e in shown"
      :key="'e' + e.i"
      class="pennant"
      :class="{ peak: e.peak, held: held === e.i }"
      role="slider"
      tabindex="0"
      :aria-label="`${e.name}, ${e.peak ? 'peak for it' : 'played through'}`"
      :aria-valuetext="longDay(held === e.i ? over : e.date)"
      :transform="`translate(${held === e.i ? x(over) : e.x} 0)`"
      @pointerdown="grab($event, e.i)"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="held = -1"
      @keydown="key($event, e.i)"
    >
      <rect x="-8" y="0" width="24" height="112" class="grip" />
      <line x1="0" x2="0" :y1="2 + e.row * ROW" y2="112" />
      <path v-if="e.peak" d="M0 2 L16 8 L0 14 Z" :transform="`translate(0 ${e.row * ROW})`" />
      <circle v-else cx="0" :cy="8 + e.row * ROW" r="4" />
      <text
        :x="e.left ? -5 : (e.peak ? 19 : 7) - e.shift"
        :y="13 + e.row * ROW"
        :text-anchor="e.left ? 'end' : 'start'"
      >
        {{ e.name }}, {{ longDay(held === e.i ? over : e.date) }}
      </text>
    </g>
    <rect
      v-if="props.tool"
      x="0"
      y="0"
      :width="width"
      height="114"
      class="tool"
      data-testid="season-tool"
      @pointerdown="pressTool"
      @pointermove="dragTool"
      @pointerup="dropTool"
      @pointercancel="marking = undefined"
    />
  </svg>
</template>

<style scoped>
.season {
  width: 100%;
  display: block;
  touch-action: pan-y;
  user-select: none;
}
text {
  font-size: var(--small);
  fill: rgb(var(--v-theme-on-background));
}
.quiet {
  fill-opacity: 0.7;
}
.tool {
  fill: transparent;
  cursor: crosshair;
}
.edge line {
  stroke: transparent;
  stroke-width: 2;
}
.edge {
  cursor: ew-resize;
}
.edge:hover line,
.edge:focus line {
  stroke: rgb(var(--v-theme-action));
}
.edge line.set {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 3;
}
.mark rect {
  fill: rgb(var(--v-theme-secondary));
}
.month {
  stroke: rgba(var(--v-theme-on-surface), 0.16);
}
.band {
  fill: rgba(var(--v-theme-on-surface), 0.05);
}
.pre-season .band {
  fill: rgba(var(--v-theme-primary), 0.12);
}
.in-season .band {
  fill: rgba(var(--v-theme-secondary), 0.14);
}
.taper .band {
  fill: rgba(var(--v-theme-secondary), 0.22);
}
.block {
  cursor: pointer;
  outline: none;
}
.block.on .band,
.block:focus-visible .band {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 2;
}
.week {
  fill: rgb(var(--v-theme-primary));
  fill-opacity: 0.75;
}
.week.easier {
  fill-opacity: 0.4;
}
.week.taper {
  fill: rgb(var(--v-theme-secondary));
}
.week.quiet {
  fill-opacity: 0.25;
}
.week.lost {
  fill: none;
  stroke: rgba(var(--v-theme-on-surface), 0.4);
  stroke-dasharray: 2 2;
}
.label {
  font-weight: 600;
}
.away {
  fill: rgba(var(--v-theme-on-surface), 0.22);
  pointer-events: none;
}
.today {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 2;
}
.pennant {
  cursor: ew-resize;
  outline: none;
  touch-action: none;
}
/* A pole behind a name is not drawn through it. */
.pennant text {
  paint-order: stroke;
  stroke: rgb(var(--v-theme-background));
  stroke-width: 4px;
}
.pennant line {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.5;
}
.pennant path,
.pennant circle {
  fill: rgb(var(--v-theme-secondary));
}
.pennant:not(.peak) line {
  stroke-dasharray: 3 3;
}
.pennant:focus-visible line,
.pennant.held line {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 3;
}
.grip {
  fill: transparent;
}
@media print {
  .grip {
    display: none;
  }
}
</style>
