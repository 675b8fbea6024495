<script setup lang="ts">
import { computed, ref } from 'vue'

import { longDay, shortDay } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/** Weeks beside each other: what was planned as an open bar, what was done filled within it; a dash where it is not known. */
export interface Bar {
  start: string
  planned: number
  done: number | null
  ahead?: boolean
}
const props = defineProps<{ bars: Bar[]; unit: string; label: string }>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 900)
const HEIGHT = 190
const top = 14
const bottom = 26
const most = computed(() => Math.max(1, ...props.bars.map((b) => Math.max(b.planned, b.done ?? 0))))
const step = computed(() => Math.max(18, (width.value - 44) / Math.max(1, props.bars.length)))
const x = (i: number) => 40 + i * step.value
const y = (v: number) => top + (HEIGHT - top - bottom) * (1 - v / most.value)
const says = (b: Bar) =>
  `Week of ${longDay(b.start)}: ${b.done === null ? 'not known' : Math.round(b.done)} done, ${Math.round(b.planned)} planned, ${props.unit}`
const every = computed(() => Math.max(1, Math.ceil(46 / step.value)))
</script>

<template>
  <div ref="box" class="plot">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="props.label">
      <g v-for="t in [0, 0.5, 1]" :key="t">
        <line :x1="40" :x2="width" :y1="y(most * t)" :y2="y(most * t)" class="grid" />
        <text x="36" :y="y(most * t) + 4" text-anchor="end" class="tick">{{ Math.round(most * t) }}</text>
      </g>
      <g v-for="(b, i) in props.bars" :key="b.start">
        <title>{{ says(b) }}</title>
        <rect
          :x="x(i) + 2"
          :width="Math.max(4, step - 6)"
          :y="y(b.planned)"
          :height="Math.max(0, y(0) - y(b.planned))"
          class="planned"
          :class="{ ahead: b.ahead }"
        />
        <rect
          v-if="b.done !== null && !b.ahead"
          :x="x(i) + 5"
          :width="Math.max(2, step - 12)"
          :y="y(b.done)"
          :height="Math.max(0, y(0) - y(b.done))"
          class="done"
        />
        <text v-else-if="!b.ahead" :x="x(i) + step / 2" :y="y(0) - 4" text-anchor="middle" class="tick">–</text>
        <text
          v-if="i % every === 0"
          :x="Math.min(x(i) + step / 2, width - 24)"
          :y="HEIGHT - 8"
          text-anchor="middle"
          class="tick"
        >
          {{ shortDay(b.start) }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.plot {
  width: 100%;
  overflow: hidden;
}
.grid {
  stroke: rgb(var(--v-theme-line));
}
.tick {
  font-size: 13px;
  fill: rgba(var(--v-theme-on-surface), 0.8);
}
.planned {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.5;
}
.ahead {
  stroke-dasharray: 4 3;
}
.done {
  fill: rgb(var(--v-theme-primary));
}
</style>
