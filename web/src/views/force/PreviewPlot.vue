<script setup lang="ts">
import { computed } from 'vue'

import { at, ticks } from './trace'
import type { Look } from './useBringIn'

/** The forces of a file as the mapping reads it; a click places impact. */
const props = defineProps<{ look: Look; placing: boolean }>()
const impact = defineModel<number | undefined>('impact', { required: true })
const W = 700
const H = 150
const lines = computed(() => props.look.preview.filter((p) => p.unit === 'N'))
const range = computed(() => {
  const all = lines.value.flatMap((l) => l.points)
  const times = all.map((p) => at(p, 0))
  const values = all.map((p) => at(p, 1))
  return {
    from: Math.min(...times),
    to: Math.max(...times),
    low: Math.min(0, ...values),
    high: Math.max(1, ...values),
  }
})
const x = (t: number) => 44 + ((t - range.value.from) / (range.value.to - range.value.from || 1)) * (W - 54)
const y = (v: number) => 8 + ((range.value.high - v) / (range.value.high - range.value.low)) * (H - 30)
const shownImpact = computed(() => impact.value ?? props.look.impactS ?? undefined)
function place(e: MouseEvent) {
  if (!props.placing) return
  const box = (e.currentTarget as SVGSVGElement).getBoundingClientRect()
  const px = ((e.clientX - box.left) / box.width) * W
  const t = range.value.from + ((px - 44) / (W - 54)) * (range.value.to - range.value.from)
  impact.value = Number(Math.min(Math.max(t, range.value.from), range.value.to).toFixed(3))
}
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    :class="{ placing: props.placing }"
    role="img"
    aria-label="Forces of the file as they would be read"
    data-testid="preview"
    @click="place"
  >
    <g v-for="t in ticks(range.low, range.high, 4)" :key="t">
      <line x1="44" :x2="W - 10" :y1="y(t)" :y2="y(t)" class="grid" />
      <text x="40" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
    </g>
    <text v-for="t in ticks(range.from, range.to, 8)" :key="'t' + t" :x="x(t)" :y="H - 6" text-anchor="middle">
      {{ t.toFixed(1) }}
    </text>
    <path
      v-for="l in lines"
      :key="l.foot + l.name"
      :d="l.points.map((p, i) => `${i ? 'L' : 'M'}${x(at(p, 0)).toFixed(1)},${y(at(p, 1)).toFixed(1)}`).join('')"
      :class="['line', l.name, { trail: l.foot === 'trail' }]"
    />
    <text x="40" y="10" text-anchor="end">N</text>
    <text :x="W - 4" :y="H - 6" text-anchor="end">s</text>
    <g v-if="shownImpact !== undefined">
      <line :x1="x(shownImpact)" :x2="x(shownImpact)" y1="8" :y2="H - 20" class="impact" />
      <text :x="x(shownImpact) + 4" y="28">impact</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  background: rgb(var(--v-theme-background));
}
.placing {
  cursor: crosshair;
}
.grid {
  stroke: rgba(var(--v-theme-on-surface), 0.14);
}
.line {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.4;
}
.line.toTarget {
  stroke: rgb(var(--v-theme-action));
}
.line.toBall {
  stroke: rgb(var(--v-theme-secondary));
}
.line.trail {
  stroke-dasharray: 5 3;
}
.impact {
  stroke: rgb(var(--v-theme-action));
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
</style>
