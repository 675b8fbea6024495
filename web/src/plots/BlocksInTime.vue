<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { addDays, longDay, shortDay } from '@/parts/days'

import { useWidth } from '@/parts/useWidth'

/**
 * The blocks a golfer trained by, on the axis of the rows beneath: what each was for, and its weeks as bars of minutes,
 * what led filled, what was built in half tone, what was kept up pale.
 */
const props = defineProps<{ blocks: Schemas['TrainedBlock'][]; from: string; to: string; today: string }>()
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 620)
const H = 96
const PAD = 6
const RIGHT = 46
const span = computed(() => Math.max(1, Date.parse(props.to) - Date.parse(props.from)))
const x = (date: string) =>
  PAD + ((Date.parse(date) - Date.parse(props.from)) / span.value) * (width.value - PAD - RIGHT)
const levels = ['lead', 'build', 'keep'] as const
const most = computed(() =>
  Math.max(
    1,
    ...props.blocks.flatMap((b) => b.weeks.map((_, w) => b.qualities.reduce((n, q) => n + (q.minutes[w] ?? 0), 0))),
  ),
)
const drawn = computed(() =>
  props.blocks
    .filter((b) => b.first <= props.to)
    .map((b) => {
      const left = x(b.first)
      const right = Math.min(x(addDays(b.last, 1)), width.value - RIGHT)
      const at = (level: string) => b.qualities.filter((q) => q.level === level).map((q) => q.name)
      const bars = b.weeks.flatMap((w, i) => {
        let top = H - 18
        const from = Math.max(x(w.start), left)
        const to = Math.min(x(addDays(w.start, 7)), right)
        return levels.map((level) => {
          const minutes = b.qualities.filter((q) => q.level === level).reduce((n, q) => n + (q.minutes[i] ?? 0), 0)
          const h = (minutes / most.value) * (H - 46)
          top -= h
          return { key: `${i}${level}`, level, x: from + 1, w: Math.max(to - from - 2, 0), y: top, h }
        })
      })
      return {
        ...b,
        left,
        wide: Math.max(right - left, 2),
        bars,
        title: `Version ${b.version}, ${longDay(b.first)} to ${longDay(b.last)}. Leads: ${at('lead').join(', ') || 'nothing'}. Built: ${at('build').join(', ') || 'nothing'}.`,
        label: at('lead').join(' and ') || b.emphasis || 'even mix',
      }
    }),
)
const months = computed(() => {
  const out: { x: number; name: string }[] = []
  for (let d = props.from; d <= props.to; d = addDays(d, 1))
    if (d.endsWith('-01')) out.push({ x: x(d), name: shortDay(d).slice(2) })
  return out
})
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${width} ${H}`"
    :height="H"
    class="blocks"
    role="img"
    :aria-label="drawn.map((b) => b.title).join(' ')"
  >
    <g v-for="m in months" :key="m.x">
      <line :x1="m.x" :x2="m.x" y1="0" :y2="H - 14" class="month" />
      <text :x="m.x + 3" :y="H - 3" class="quiet">{{ m.name }}</text>
    </g>
    <g v-for="b in drawn" :key="b.version">
      <title>{{ b.title }}</title>
      <rect :x="b.left" y="4" :width="b.wide" :height="H - 22" class="band" />
      <rect v-for="r in b.bars" :key="r.key" :x="r.x" :y="r.y" :width="r.w" :height="r.h" :class="['bar', r.level]" />
      <text v-if="b.wide > 40" :x="b.left + 4" y="18">
        {{ b.label.length * 6.4 > b.wide ? b.label.slice(0, Math.floor(b.wide / 6.4) - 1) + '…' : b.label }}
      </text>
    </g>
    <line v-if="props.today <= props.to" :x1="x(props.today)" :x2="x(props.today)" y1="0" :y2="H - 14" class="today" />
  </svg>
</template>

<style scoped>
.blocks {
  width: 100%;
  display: block;
}
.band {
  fill: rgba(var(--v-theme-on-surface), 0.05);
}
.bar {
  fill: rgb(var(--v-theme-primary));
}
.bar.build {
  fill-opacity: 0.5;
}
.bar.keep {
  fill-opacity: 0.2;
}
.month {
  stroke: rgba(var(--v-theme-on-surface), 0.16);
}
.today {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 1.5;
}
text {
  font-size: var(--small);
  fill: rgb(var(--v-theme-on-background));
}
.quiet {
  fill-opacity: 0.7;
}
</style>
