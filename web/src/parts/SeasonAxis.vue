<script setup lang="ts">
import { computed } from 'vue'

import { useSession } from '@/api/queries'

import { longDay } from './days'
import { seasonScale } from './seasonScale'

/** The months over the season lanes under it, and today. */
const { data: session } = useSession()
const today = computed(() => session.value?.today ?? '2026-01-01')
const scale = computed(() => seasonScale(today.value))
</script>

<template>
  <div class="axis small" role="img" :aria-label="`Calendar: today is ${longDay(today)}`">
    <span
      v-for="t in scale.ticks"
      :key="t.at"
      class="tick"
      :class="{ month: t.label }"
      :style="{ left: `${t.at * 100}%` }"
      >{{ t.label }}</span
    >
    <span class="today" :style="{ left: `${scale.at(today) * 100}%` }">today</span>
  </div>
</template>

<style scoped>
.axis {
  position: relative;
  height: 38px;
  overflow: hidden;
}
.tick,
.today {
  position: absolute;
  bottom: 0;
  height: 6px;
  border-left: 1px solid rgba(var(--v-theme-on-surface), 0.35);
  padding-left: 4px;
  white-space: nowrap;
}
.month {
  height: 18px;
  line-height: 16px;
}
.today {
  height: 38px;
  line-height: 16px;
  border-left: 2px solid rgb(var(--v-theme-action));
  font-weight: 650;
}
</style>
