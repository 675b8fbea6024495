<script setup lang="ts">
import { computed, ref } from 'vue'

import { longDay, shortDay } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/** Load through the days: each day a bar, what is recent a solid line, what is usual a dashed one. */
const props = defineProps<{
  days: { date: string; load: number | null }[]
  recent: (number | null)[]
  usual: (number | null)[]
  label?: string
  /** Where the axis begins: 0 unless the numbers lie far above it. */
  base?: number
}>()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box, 900)
const HEIGHT = 180
const most = computed(() => Math.max(1, ...props.days.map((d) => d.load ?? 0)))
const step = computed(() => (width.value - 44) / Math.max(1, props.days.length))
const x = (i: number) => 40 + (i + 0.5) * step.value
const base = computed(() => props.base ?? 0)
const y = (v: number) => 12 + (HEIGHT - 38) * (1 - (v - base.value) / Math.max(1e-9, most.value - base.value))
const ticks = computed(() => [0, 0.5, 1].map((t) => base.value + (most.value - base.value) * t))
const path = (list: (number | null)[]) => {
  let d = ''
  let on = false
  list.forEach((v, i) => {
    if (v === null) on = false
    else {
      d += `${on ? 'L' : 'M'}${x(i).toFixed(1)},${y(v).toFixed(1)}`
      on = true
    }
  })
  return d
}
const every = computed(() => Math.max(7, Math.ceil(52 / Math.max(0.1, step.value) / 7) * 7))
</script>

<template>
  <div ref="box" class="plot">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="props.label ?? 'Load by day, recent and usual'">
      <g v-for="t in ticks" :key="t">
        <line :x1="40" :x2="width" :y1="y(t)" :y2="y(t)" class="grid" />
        <text x="36" :y="y(t) + 4" text-anchor="end" class="tick">{{ +t.toFixed(most < 20 ? 1 : 0) }}</text>
      </g>
      <template v-for="(d, i) in props.days" :key="d.date">
        <rect
          v-if="d.load !== null && d.load > 0"
          :x="x(i) - Math.max(1, step * 0.3)"
          :width="Math.max(2, step * 0.6)"
          :y="y(d.load)"
          :height="y(base) - y(d.load)"
          class="day"
        >
          <title>{{ longDay(d.date) }}: {{ Math.round(d.load) }}</title>
        </rect>
        <text v-else-if="d.load === null" :x="x(i)" :y="y(base) - 3" text-anchor="middle" class="tick">–</text>
        <text v-if="i % every === 0" :x="Math.min(x(i), width - 24)" :y="HEIGHT - 8" text-anchor="middle" class="tick">
          {{ shortDay(d.date) }}
        </text>
      </template>
      <path :d="path(props.usual)" class="usual" />
      <path :d="path(props.recent)" class="recent" />
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
.day {
  fill: rgb(var(--v-theme-band));
}
.recent,
.usual {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2.5;
}
.usual {
  stroke: rgb(var(--v-theme-secondary));
  stroke-dasharray: 6 4;
}
</style>
