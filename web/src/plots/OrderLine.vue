<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'

import { useWidth } from '@/parts/useWidth'

/** The peaks before impact on one thin line, with the gaps between them in milliseconds. */
const props = defineProps<{ swing: Schemas['SwingResult'] }>()
const peaks = computed(() => {
  const s = props.swing
  const of: Record<string, { timeBeforeImpactS: number } | null> = {
    lateral: s.lateral,
    rotational: s.rotational,
    vertical: s.vertical,
  }
  return s.order.map((name) => ({ name, ms: 1000 * (of[name]?.timeBeforeImpactS ?? 0) }))
})
const span = computed(() => Math.max(60, 1000 * props.swing.downswingS))
const svg = useTemplateRef<SVGSVGElement>('svg')
const W = useWidth(svg, 760)
const end = computed(() => W.value - 50)
/** Where the line is short, every second word stands a row farther out: beside each other they would not fit. */
const row = computed(() => (W.value < 520 ? 14 : 0))
const y = computed(() => 24 + row.value)
const x = (ms: number) => 30 + (1 - ms / span.value) * (end.value - 30)
const gaps = computed(() =>
  peaks.value.slice(1).map((p, i) => {
    const before = peaks.value[i]?.ms ?? p.ms
    return { from: before, to: p.ms, ms: before - p.ms }
  }),
)
</script>

<template>
  <svg
    ref="svg"
    :viewBox="`0 0 ${W} ${46 + 2 * row}`"
    class="order"
    role="img"
    :aria-label="'Before impact: ' + peaks.map((p) => `${p.name} ${p.ms.toFixed(0)} ms`).join(', ')"
    data-testid="order-line"
  >
    <line x1="30" :x2="end" :y1="y" :y2="y" class="axis" />
    <text x="30" :y="y + 18" text-anchor="middle">top</text>
    <text :x="end" :y="y + 18" text-anchor="middle">impact</text>
    <line :x1="end" :x2="end" :y1="y - 8" :y2="y + 8" class="axis" />
    <line x1="30" x2="30" :y1="y - 8" :y2="y + 8" class="axis" />
    <g v-for="(p, i) in peaks" :key="p.name">
      <circle :cx="x(p.ms)" :cy="y" r="4.5" class="mark" />
      <text
        :x="x(p.ms)"
        :y="y - 13 - (i % 2) * row"
        :text-anchor="i === 0 ? 'end' : i === peaks.length - 1 ? 'start' : 'middle'"
      >
        {{ p.name }} {{ p.ms.toFixed(0) }}
      </text>
    </g>
    <text
      v-for="(g, i) in gaps"
      :key="g.from"
      :x="(x(g.from) + x(g.to)) / 2"
      :y="y + 16 + (i % 2) * row"
      text-anchor="middle"
      class="gap"
    >
      {{ g.ms.toFixed(0) }} ms
    </text>
  </svg>
</template>

<style scoped>
.order {
  width: 100%;
  display: block;
}
.axis {
  stroke: rgba(var(--v-theme-on-surface), 0.5);
}
.mark {
  fill: rgb(var(--v-theme-secondary));
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
.gap {
  fill: rgb(var(--v-theme-action));
}
</style>
