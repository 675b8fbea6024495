<script setup lang="ts">
import { computed } from 'vue'

import { at as valueAt, channel, type Trace } from '@/views/force/trace'

/**
 * Both feet from above as the golfer looks down: the ball at the top, the target to the left of golfers who play from
 * the right. Lead solid, trail open. The path of pressure of each foot and of both, with where it is now, as large as
 * the load.
 */
const props = defineProps<{
  trace: Trace
  at: number
  from: number
  to: number
  side: 'right' | 'left'
  bodyWeight: number
}>()

const W = 240
const H = 250
const place = computed(() => Math.round((props.at - props.trace.startS) * props.trace.rateHz))
const range = computed(() => {
  const i = (t: number) =>
    Math.min(props.trace.samples - 1, Math.max(0, Math.round((t - props.trace.startS) * props.trace.rateHz)))
  return { from: i(props.from), to: i(props.to) }
})
const signals = (foot: 'lead' | 'trail') => ({
  foot,
  x: channel(props.trace, foot, 'copToTarget'),
  y: channel(props.trace, foot, 'copToBall'),
  up: channel(props.trace, foot, 'up'),
  fx: channel(props.trace, foot, 'toTarget'),
  fy: channel(props.trace, foot, 'toBall'),
})
type Foot = ReturnType<typeof signals>
const lead = computed(() => signals('lead'))
const trail = computed(() => signals('trail'))
const both = computed(() => ({
  x: channel(props.trace, 'both', 'copToTarget'),
  y: channel(props.trace, 'both', 'copToBall'),
}))
const known = computed(() => !!lead.value.x && !!trail.value.x)

/** Middle of a foot: where its pressure was on average while it was loaded. */
function middleOf(f: Foot) {
  let x = 0
  let y = 0
  let load = 0
  for (let i = range.value.from; i <= range.value.to; i += 5) {
    const up = valueAt(f.up, i)
    if (up < 30) continue
    x += valueAt(f.x, i) * up
    y += valueAt(f.y, i) * up
    load += up
  }
  return load ? { x: x / load, y: y / load } : { x: 0, y: 0 }
}
const leadAt = computed(() => middleOf(lead.value))
const trailAt = computed(() => middleOf(trail.value))
const centre = computed(() => ({
  x: (leadAt.value.x + trailAt.value.x) / 2,
  y: (leadAt.value.y + trailAt.value.y) / 2,
}))
const scale = computed(() => Math.min(420, 150 / Math.max(0.3, Math.abs(leadAt.value.x - trailAt.value.x))))
const mirror = computed(() => (props.side === 'right' ? -1 : 1))
const px = (m: number) => W / 2 + mirror.value * (m - centre.value.x) * scale.value
const py = (m: number) => H / 2 + 6 - (m - centre.value.y) * scale.value
function path(x?: Float32Array, y?: Float32Array, up?: Float32Array): string {
  if (!x || !y) return ''
  let d = ''
  let pen = false
  for (let i = range.value.from; i <= range.value.to; i += 4) {
    if (up && valueAt(up, i) < 0.05 * props.bodyWeight) {
      pen = false
      continue
    }
    d += `${pen ? 'L' : 'M'}${px(valueAt(x, i)).toFixed(1)},${py(valueAt(y, i)).toFixed(1)}`
    pen = true
  }
  return d
}
const sample = computed(() => Math.min(Math.max(place.value, 0), props.trace.samples - 1))
const nowOf = (f: Foot) => ({
  foot: f.foot,
  x: px(valueAt(f.x, sample.value)),
  y: py(valueAt(f.y, sample.value)),
  up: valueAt(f.up, sample.value),
  ax: mirror.value * valueAt(f.fx, sample.value),
  ay: -valueAt(f.fy, sample.value),
})
const now = computed(() => [nowOf(lead.value), nowOf(trail.value)])
const share = computed(() => Math.round(100 * valueAt(channel(props.trace, 'both', 'leadShare'), sample.value)))
const radius = (up: number) => 3 + 12 * Math.sqrt(Math.max(0, up) / props.bodyWeight)
const combined = computed(() =>
  both.value.x ? { x: px(valueAt(both.value.x, sample.value)), y: py(valueAt(both.value.y, sample.value)) } : undefined,
)
</script>

<template>
  <figure class="plan">
    <svg
      v-if="known"
      :viewBox="`0 0 ${W} ${H}`"
      role="img"
      :aria-label="`Feet from above at ${props.at.toFixed(2)} s: the lead foot carries ${share}%`"
      data-testid="foot-plan"
    >
      <text :x="W / 2" y="12" text-anchor="middle">ball</text>
      <text :x="props.side === 'right' ? 4 : W - 4" y="12" :text-anchor="props.side === 'right' ? 'start' : 'end'">
        {{ props.side === 'right' ? '← target' : 'target →' }}
      </text>
      <rect
        v-for="(m, i) in [leadAt, trailAt]"
        :key="i"
        :x="px(m.x) - 0.055 * scale"
        :y="py(m.y) - 0.14 * scale"
        :width="0.11 * scale"
        :height="0.28 * scale"
        :rx="0.05 * scale"
        :class="['outline', { open: i === 1 }]"
      />
      <path :d="path(both.x, both.y)" class="way both" />
      <path :d="path(lead.x, lead.y, lead.up)" class="way" />
      <path :d="path(trail.x, trail.y, trail.up)" class="way open" />
      <g v-for="f in now" :key="f.foot">
        <line :x1="f.x" :y1="f.y" :x2="f.x + f.ax / 4" :y2="f.y + f.ay / 4" class="push" />
        <circle :cx="f.x" :cy="f.y" :r="radius(f.up)" :class="['load', { open: f.foot === 'trail' }]" />
      </g>
      <path
        v-if="combined"
        :d="`M${combined.x - 5},${combined.y}h10M${combined.x},${combined.y - 5}v10`"
        class="cross"
      />
      <text x="4" :y="H - 4">lead {{ share }}%</text>
      <text :x="W - 4" :y="H - 4" text-anchor="end">trail {{ 100 - share }}%</text>
    </svg>
    <p v-else class="small quiet">The centre of pressure of each foot was not recorded: there is no path to draw.</p>
    <figcaption v-if="known" class="small quiet">
      Filled: lead; open: trail; cross: both together. Lines at the dots: horizontal force.
    </figcaption>
  </figure>
</template>

<style scoped>
.plan {
  margin: 0;
}
svg {
  width: 100%;
  display: block;
}
.outline {
  fill: rgb(var(--v-theme-band));
  fill-opacity: 0.6;
  stroke: none;
}
.outline.open {
  fill: none;
  stroke: rgba(var(--v-theme-on-surface), 0.4);
  stroke-dasharray: 3 3;
}
.way {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.4;
}
.way.open {
  stroke-dasharray: 4 3;
}
.way.both {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.2;
}
.load {
  fill: rgb(var(--v-theme-primary));
  fill-opacity: 0.75;
  stroke: rgb(var(--v-theme-primary));
}
.load.open {
  fill: rgb(var(--v-theme-background));
  stroke-width: 2;
}
.push {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 2;
}
.cross {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 2;
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
