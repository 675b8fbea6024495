<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'

import { useWidth } from '@/parts/useWidth'

/** A warm-up in time: phases as lengths along the minutes, the ladder as rising steps, the tee time as a pennant. */
const props = defineProps<{ warmup: Schemas['WarmUp']; at?: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()

const H = 150
const TOP = 18
const BASE = 96
const PAD = 8
const names: Record<string, string> = {
  raise: 'Raise',
  joints: 'Joints',
  activate: 'Activate',
  separate: 'Separate',
  jump: 'Jump',
  ladder: 'Ladder',
  after: 'After',
}
const svg = ref<SVGSVGElement | null>(null)
const width = useWidth(svg, 900)
const total = computed(() => Math.max(props.warmup.request.minutes * 60, sum.value))
const inTime = computed(() => props.warmup.items.filter((i) => !i.wait))
const sum = computed(() => props.warmup.items.filter((i) => !i.wait).reduce((s, i) => s + i.seconds, 0))
const end = computed(() => width.value - (props.warmup.onTeeAt ? 82 : PAD))
const x = (s: number) => PAD + (s / total.value) * (end.value - PAD)
const y = (intent: number) => BASE - 8 - (intent / 100) * (BASE - TOP - 16)

const placed = computed(() => {
  let s = 0
  return inTime.value.map((i) => {
    const from = s
    s += i.seconds
    return { ...i, from, to: s }
  })
})
const blocks = computed(() => {
  const out: { phase: string; from: number; to: number }[] = []
  for (const i of placed.value) {
    const last = out.at(-1)
    if (last?.phase === i.phase) last.to = i.to
    else out.push({ phase: i.phase, from: i.from, to: i.to })
  }
  return out
})
const steps = computed(() => placed.value.filter((i) => i.swings > 0))
const path = computed(() =>
  steps.value
    .filter((s) => s.side !== 'other')
    .map((s, k, all) => {
      const begins = k === 0 || (all[k - 1]?.round ?? 1) !== (s.round ?? 1)
      return `${begins ? 'M' : 'H'}${x(s.from).toFixed(1)}${begins ? ' ' : 'V'}${y(s.intentPercent).toFixed(1)}H${x(s.to).toFixed(1)}`
    })
    .join(''),
)
/** What is swung, written where it changes and the next has not changed again before it is read. */
const masses = computed(() =>
  steps.value
    .filter((s, k, all) => s.implementPercent !== undefined && s.implementId !== all[k - 1]?.implementId)
    .map((s) => ({
      at: x(s.from),
      text:
        Math.abs(s.implementPercent ?? 0) < 2
          ? 'own'
          : `${(s.implementPercent ?? 0) > 0 ? '+' : '−'}${Math.abs(s.implementPercent ?? 0).toFixed(0)}%`,
    }))
    .filter((m, k, all) => (all[k + 1]?.at ?? Infinity) - m.at > 44),
)
const minutes = computed(() => {
  const n = Math.round(total.value / 60)
  // A minute is written where its words have room.
  const step = [1, 2, 5, 10].find((k) => x(k * 60) - x(0) >= 36) ?? 10
  return Array.from({ length: Math.floor(n / step) + 1 }, (_, k) => k * step)
})
const words = computed(() => {
  const b = blocks.value.map((p) => `${names[p.phase]} ${Math.round(p.to - p.from)} s`).join(', ')
  const tee = props.warmup.onTeeAt ? `; start ${props.warmup.startAt}, on the tee ${props.warmup.onTeeAt}` : ''
  return `${b}${tee}`
})
</script>

<template>
  <svg ref="svg" :viewBox="`0 0 ${width} ${H}`" :height="H" class="strip" role="img" :aria-label="words">
    <g v-for="p in blocks" :key="p.from" :class="['phase', p.phase]">
      <rect
        :x="x(p.from)"
        :y="p.phase === 'ladder' ? TOP : BASE - 26"
        :width="Math.max(1, x(p.to) - x(p.from) - 2)"
        :height="p.phase === 'ladder' ? BASE - TOP : 26"
        rx="2"
      />
      <text v-if="x(p.to) - x(p.from) > 58" :x="x(p.from) + 6" :y="p.phase === 'ladder' ? TOP - 5 : BASE - 32">
        {{ names[p.phase] }}
      </text>
    </g>
    <line
      v-for="i in placed"
      :key="i.id"
      :x1="x(i.to) - 1"
      :x2="x(i.to) - 1"
      :y1="BASE - (i.phase === 'ladder' ? 0 : 26)"
      :y2="BASE"
      class="edge"
    />
    <path :d="path" class="steps" />
    <g v-for="s in steps" :key="s.id">
      <rect
        v-if="s.side === 'other'"
        :x="x(s.from)"
        :y="y(s.intentPercent) - 3"
        :width="Math.max(2, x(s.to) - x(s.from) - 2)"
        height="6"
        class="other"
      />
    </g>
    <text v-for="m in masses" :key="m.at" :x="m.at + 2" :y="BASE - 4" class="mass">
      {{ m.text }}
    </text>
    <rect
      v-for="i in placed"
      :key="`hit-${i.id}`"
      :x="x(i.from)"
      :y="TOP"
      :width="Math.max(2, x(i.to) - x(i.from))"
      :height="BASE - TOP"
      :class="['hit', { at: i.id === props.at }]"
      @click="emit('choose', i.id)"
    >
      <title>{{ i.name }}, {{ i.seconds }} s</title>
    </rect>
    <line :x1="PAD" :x2="x(total)" :y1="BASE + 6" :y2="BASE + 6" class="axis" />
    <g v-for="m in minutes" :key="m">
      <line :x1="x(m * 60)" :x2="x(m * 60)" :y1="BASE + 6" :y2="BASE + 11" class="axis" />
      <text :x="x(m * 60)" :y="BASE + 25" :text-anchor="m === 0 ? 'start' : 'middle'">
        {{ m }}{{ m === 0 ? ' min' : '' }}
      </text>
    </g>
    <g v-if="props.warmup.onTeeAt" class="tee" data-testid="pennant">
      <line :x1="width - 64" :x2="width - 64" :y1="8" :y2="BASE + 6" />
      <path :d="`M${width - 64} 8l62 13l-62 13z`" />
      <text :x="width - 58" :y="26">{{ props.warmup.onTeeAt }}</text>
      <text :x="width - 58" :y="BASE + 25" class="small">on the tee</text>
      <text :x="PAD" :y="BASE + 44">start {{ props.warmup.startAt }}</text>
    </g>
  </svg>
</template>

<style scoped>
.strip {
  width: 100%;
  display: block;
}
text {
  font-size: 13px;
  fill: currentcolor;
}
.phase rect {
  fill: rgba(var(--v-theme-primary), 0.22);
}
.phase.joints rect,
.phase.separate rect {
  fill: rgba(var(--v-theme-primary), 0.34);
}
.phase.jump rect {
  fill: rgba(var(--v-theme-secondary), 0.34);
}
.phase.ladder rect {
  fill: rgba(var(--v-theme-secondary), 0.12);
}
.edge {
  stroke: rgb(var(--v-theme-background));
  stroke-width: 1;
}
.steps {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 3;
}
.other {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.4;
}
.mass {
  font-weight: 650;
}
.hit {
  fill: transparent;
  cursor: pointer;
}
.hit.at {
  fill: rgba(var(--v-theme-action), 0.16);
}
.axis {
  stroke: rgba(var(--v-theme-on-surface), 0.5);
}
.tee line {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 2;
}
.tee path {
  fill: rgb(var(--v-theme-action));
}
.tee text:first-of-type {
  fill: rgb(var(--v-theme-on-action, 255, 255, 255));
  font-weight: 650;
}
</style>
