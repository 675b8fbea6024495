<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** A set of shots: mean as a mark, one SD to both sides as a bar, how wide the SD may be as a whisker. */
const props = defineProps<{ spread: Schemas['Accuracy']['spread']; unit: string; name: string }>()
const half = computed(() => props.spread.sdInterval.high * 1.15 || 1)
const x = (d: number) => 150 + (d / half.value) * 140
const words = computed(
  () => `${props.name}: mean ${props.spread.mean.toFixed(1)}, SD ${props.spread.sd.toFixed(1)} ${props.unit}`,
)
</script>

<template>
  <svg viewBox="0 0 300 18" class="shots" role="img" :aria-label="words">
    <line :x1="x(-props.spread.sdInterval.high)" :x2="x(props.spread.sdInterval.high)" y1="9" y2="9" class="whisker" />
    <rect :x="x(-props.spread.sd)" :width="x(props.spread.sd) - x(-props.spread.sd)" y="4" height="10" class="bar" />
    <circle cx="150" cy="9" r="4" class="mark" />
  </svg>
</template>

<style scoped>
.shots {
  width: 100%;
  max-width: 300px;
  display: block;
}
.whisker {
  stroke: rgb(var(--v-theme-primary));
  stroke-dasharray: 3 3;
}
.bar {
  fill: rgb(var(--v-theme-band));
}
.mark {
  fill: rgb(var(--v-theme-primary));
}
</style>
