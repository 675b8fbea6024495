<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'

/** A week's sets by zone as a small stacked bar, with the counts that have limits. */
const props = defineProps<{ week: Schemas['Week'] }>()

const zones = ['Z1', 'Z2', 'Z3', 'Z4', 'Z5', 'M']
const total = computed(() => Object.values(props.week.totals.setsByZone).reduce((a, b) => a + b, 0))
const parts = computed(() =>
  zones.map((z) => ({ zone: z, sets: props.week.totals.setsByZone[z] ?? 0 })).filter((p) => p.sets > 0),
)
</script>

<template>
  <div class="bar" role="img" :aria-label="'Sets: ' + parts.map((p) => `${p.zone} ${p.sets}`).join(', ')">
    <span
      v-for="p in parts"
      :key="p.zone"
      :class="p.zone"
      :style="{ width: (100 * p.sets) / total + '%' }"
      :title="`${p.zone}: ${p.sets} sets`"
      >{{ p.zone }}</span
    >
  </div>
  <p class="small num">
    {{ Math.round(props.week.totals.minutes) }} min · {{ props.week.totals.swings }} swings ·
    {{ props.week.totals.throws }} throws · {{ props.week.totals.contacts }} landings
  </p>
  <p v-if="props.week.retest" class="small retest">
    Retest {{ longDay(props.week.retest.date) }}: {{ props.week.retest.text }}
  </p>
</template>

<style scoped>
.bar {
  display: flex;
  height: 18px;
  font-size: var(--small);
  line-height: 18px;
  overflow: hidden;
}
.bar span {
  overflow: hidden;
  padding-left: 3px;
  border-right: 1px solid rgb(var(--v-theme-background));
  color: #1f2a33;
}
.Z1 {
  background: #e9d8c3;
}
.Z2 {
  background: #dcc0a0;
}
.Z3 {
  background: #cba67f;
}
.Z4 {
  background: #b5c0c8;
}
.Z5 {
  background: #ccd4d9;
}
.M {
  background: #d5decd;
}
p {
  margin: 2px 0;
  white-space: normal;
}
.retest {
  color: rgb(var(--v-theme-moss));
}
</style>
