<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession } from '@/api/queries'

import { earlierFirst, longDay } from './days'
import { placeNames, seasonScale, WEEKS } from './seasonScale'
import { useElementWidth } from './useWidth'

/**
 * One golfer's season as a strip: weeks as ticks, blocks as tinted lengths, competitions as pennants, screens as dots,
 * today as a line. It is edited on the season's page.
 */
const props = defineProps<{ lane: Schemas['Lane']; golferId: string; labelled?: boolean }>()

const { data: session } = useSession()
const WIDTH = 1000
const HEIGHT = 48

const today = computed(() => session.value?.today ?? '2026-01-01')
const scale = computed(() => seasonScale(today.value))
const x = (date: string) => scale.value.at(date) * WIDTH
const inside = (date: string) => scale.value.inside(date)
const ticks = computed(() => scale.value.ticks.map((t) => ({ x: t.at * WIDTH, label: t.label })))
const blocks = computed(() =>
  props.lane.blocks.map((b) => ({
    ...b,
    x: x(b.start),
    width: (b.weeks * WIDTH) / WEEKS,
    title: `${b.status === 'draft' ? 'Draft' : b.status === 'pencilled' ? 'Pencilled' : `Version ${b.version}`}: ${b.weeks} weeks from ${longDay(b.start)}, ${b.emphasis}`,
  })),
)
const over = useTemplateRef<HTMLElement>('over')
const wide = useElementWidth(over)
/** The competitions of the stretch in order, each with the place its name has. */
const pennants = computed(() => {
  const list = props.lane.competitions.filter((c) => inside(c.date)).sort((a, b) => earlierFirst(a.date, b.date))
  const places = placeNames(
    list.map((c) => ({ at: scale.value.at(c.date), name: c.name })),
    wide.value,
  )
  return list.map((c, i) => ({ ...c, place: places[i] }))
})
const words = computed(
  () =>
    `Season: ${props.lane.blocks.map((b) => b.emphasis + ' from ' + longDay(b.start)).join(', ') || 'no block'}; ` +
    `${props.lane.screens.length} screens; ${props.lane.competitions.map((c) => c.name + ' on ' + longDay(c.date)).join(', ') || 'no competition'}`,
)
</script>

<template>
  <svg class="lane" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" role="img" :aria-label="words">
    <line v-for="t in ticks" :key="t.x" :x1="t.x" :x2="t.x" y1="36" y2="41" class="tick" />
    <g v-for="b in blocks" :key="b.programmeId ?? b.start">
      <rect :x="b.x" y="14" :width="b.width" height="20" :class="['block', b.status]">
        <title>{{ b.title }}</title>
      </rect>
    </g>
    <line :x1="x(today)" :x2="x(today)" y1="2" y2="44" class="today" />
  </svg>
  <div ref="over" class="over" aria-hidden="true">
    <span
      v-for="t in ticks.filter((k) => k.label && props.labelled)"
      :key="t.x"
      class="month"
      :style="{ left: t.x / 10 + '%' }"
      >{{ t.label }}</span
    >
    <span
      v-for="b in blocks"
      :key="b.programmeId ?? b.start"
      class="emphasis"
      :style="{ left: b.x / 10 + '%', width: b.width / 10 + '%' }"
      :title="b.title"
      >{{ b.status === 'draft' ? 'draft: ' : '' }}{{ b.emphasis }}</span
    >
    <span
      v-for="s in props.lane.screens.filter(inside)"
      :key="s"
      class="dot"
      :style="{ left: x(s) / 10 + '%' }"
      :title="`Screen on ${longDay(s)}`"
    />
    <span
      v-for="c in pennants"
      :key="c.name + c.date"
      class="pennant"
      :class="{ peak: c.peak, left: c.place === 'left' }"
      :style="{ left: x(c.date) / 10 + '%' }"
      :title="`${c.name}, ${longDay(c.date)}, ${c.peak ? 'peak for it' : 'play through'}`"
      >{{ c.place ? c.name : '' }}</span
    >
  </div>
</template>

<style scoped>
.lane,
.over {
  grid-column: 2;
  grid-row: 1;
  width: 100%;
  height: 48px;
}
.over {
  position: relative;
  font-size: var(--small);
  overflow: hidden;
}
.over > * {
  position: absolute;
  white-space: nowrap;
}
.tick {
  stroke: rgba(var(--v-theme-on-surface), 0.35);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.block {
  fill: rgb(var(--v-theme-band));
  stroke: rgb(var(--v-theme-secondary));
  vector-effect: non-scaling-stroke;
}
.block.draft,
.block.pencilled {
  fill: none;
  stroke-dasharray: 4 3;
}
.today {
  stroke: rgb(var(--v-theme-action));
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
.emphasis {
  top: 15px;
  padding-left: 6px;
  overflow: hidden;
  text-overflow: ellipsis;
  line-height: 18px;
}
.month {
  top: 34px;
  line-height: 14px;
  padding-left: 3px;
  color: rgba(var(--v-theme-on-surface), 0.76);
}
.dot {
  top: 20px;
  width: 8px;
  height: 8px;
  margin-left: -4px;
  border-radius: 50%;
  background: rgb(var(--v-theme-primary));
}
.pennant {
  top: 0;
  border-left: 2px solid rgb(var(--v-theme-secondary));
  padding: 0 6px 0 4px;
  height: 34px;
  line-height: 14px;
}
.pennant.left {
  transform: translateX(-100%);
  border-left: 0;
  border-right: 2px solid rgb(var(--v-theme-secondary));
  padding: 0 4px 0 6px;
}
.pennant.peak {
  font-weight: 700;
}
</style>
