<script setup lang="ts">
import { computed } from 'vue'

/** Sets by zone as one bar, from fast and light on the left to strength and range on the right. */
const props = defineProps<{ shares: Record<string, number>; words: Record<string, string> }>()
const order = ['Z1', 'Z2', 'Z3', 'Z4', 'Z5', 'M']
const parts = computed(() => {
  const all = order.reduce((n, z) => n + (props.shares[z] ?? 0), 0) || 1
  let x = 0
  return order
    .map((zone) => {
      const share = (100 * (props.shares[zone] ?? 0)) / all
      const at = x
      x += share
      return { zone, share, at }
    })
    .filter((p) => p.share > 0)
})
const label = computed(() =>
  parts.value.map((p) => `${props.words[p.zone] ?? p.zone} ${p.share.toFixed(0)}%`).join(', '),
)
</script>

<template>
  <svg viewBox="0 0 100 12" preserveAspectRatio="none" class="zones" role="img" :aria-label="label">
    <rect v-for="p in parts" :key="p.zone" :x="p.at" y="0" :width="p.share" height="12" :class="p.zone">
      <title>{{ props.words[p.zone] ?? p.zone }} {{ p.share.toFixed(0) }}%</title>
    </rect>
  </svg>
</template>

<style scoped>
.zones {
  width: 100%;
  height: 14px;
  display: block;
}
rect {
  stroke: rgb(var(--v-theme-background));
  stroke-width: 0.4;
  fill: rgb(var(--v-theme-primary));
}
.Z1 {
  fill-opacity: 0.2;
}
.Z2 {
  fill-opacity: 0.36;
}
.Z3 {
  fill-opacity: 0.52;
}
.Z4 {
  fill-opacity: 0.85;
}
.Z5 {
  fill-opacity: 0.68;
}
.M {
  fill: rgb(var(--v-theme-secondary));
  fill-opacity: 0.55;
}
</style>
