<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** Who is where and when: golfers down, minutes across, each length a station with its number and, where there is room, its name. */
const props = defineProps<{ day: Schemas['Day']; now?: number; selected?: number }>()

const minutes = computed(() => Math.max(1, props.day.plan.minutes))
const left = (m: number) => `${(m / minutes.value) * 100}%`
const ticks = computed(() => {
  const step = minutes.value > 150 ? 30 : minutes.value > 60 ? 15 : 10
  return Array.from({ length: Math.floor(minutes.value / step) + 1 }, (_, i) => i * step)
})
const rows = computed(() =>
  props.day.golfers.map((g, i) => ({ golfer: g, slots: props.day.plan.slots.filter((s) => s.golfer === i) })),
)
function clock(m: number): string {
  const [h = 0, min = 0] = props.day.start.split(':').map(Number)
  const t = h * 60 + min + m
  return `${String(Math.floor(t / 60) % 24).padStart(2, '0')}:${String(t % 60).padStart(2, '0')}`
}
const name = (s: number) => props.day.stations[s]?.name ?? ''
defineExpose({ clock })
</script>

<template>
  <div class="order" role="table" aria-label="Running order">
    <div class="line axis small quiet" aria-hidden="true">
      <span class="who" />
      <span class="track"
        ><i v-for="t in ticks" :key="t" :style="{ left: left(t) }">{{ clock(t) }}</i></span
      >
    </div>
    <div v-for="r in rows" :key="r.golfer.id" class="line" role="row">
      <span class="who" role="rowheader">{{ r.golfer.name }}</span>
      <span class="track" role="cell">
        <span
          v-for="s in r.slots"
          :key="s.station"
          class="slot small"
          :class="[`tired${props.day.stations[s.station]?.tiring ?? 0}`, { on: s.station === props.selected }]"
          :style="{ left: left(s.start), width: `calc(${left(s.end - s.start)} - 2px)` }"
          :title="`${name(s.station)}, ${clock(s.start)} to ${clock(s.end)}`"
        >
          <b aria-hidden="true">{{ s.station + 1 }}</b>
          <span class="name" aria-hidden="true"> {{ name(s.station) }}</span>
          <span class="visually-hidden">{{ name(s.station) }} at {{ clock(s.start) }}</span>
        </span>
        <i v-if="props.now !== undefined" class="now" :style="{ left: left(props.now) }" />
      </span>
    </div>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 150px 1fr;
  align-items: center;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding-right: 8px;
}
.track {
  position: relative;
  height: 34px;
}
.axis .track {
  height: 20px;
}
.axis i {
  position: absolute;
  font-style: normal;
  transform: translateX(-1px);
  border-left: 1px solid rgb(var(--v-theme-line));
  padding-left: 3px;
}
.slot {
  position: absolute;
  top: 3px;
  bottom: 3px;
  overflow: hidden;
  white-space: nowrap;
  container-type: inline-size;
  line-height: 26px;
  padding: 0 3px;
  border: 1px solid rgb(var(--v-theme-primary));
  border-radius: 2px;
  background: rgb(var(--v-theme-surface));
}
b {
  margin-right: 4px;
}
/* A name stands there whole or not at all: the number is always there. */
.name {
  display: none;
}
@container (min-width: 84px) {
  .name {
    display: inline;
  }
}
.slot.tired1,
.slot.tired2,
.slot.tired3 {
  border-color: rgb(var(--v-theme-secondary));
  border-width: 1px 1px 1px 3px;
}
.slot.on {
  background: rgb(var(--v-theme-band));
  font-weight: 650;
}
.now {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px solid rgb(var(--v-theme-action));
}
@media (max-width: 600px) {
  .line {
    grid-template-columns: 112px 1fr;
  }
  .slot {
    padding: 0;
    text-align: center;
  }
  .axis i:not(:nth-child(4n + 1)) {
    display: none;
  }
}
</style>
