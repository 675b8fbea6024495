<script setup lang="ts">
import { useWindowVirtualizer } from '@tanstack/vue-virtual'
import { useMediaQuery } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'

import SeasonAxis from '@/parts/SeasonAxis.vue'

import type { Line } from './rows'
import SquadLine from './SquadLine.vue'

/** The lines of the squad under one calendar: only what is seen is drawn, however many there are. */
const all = defineModel<boolean>('all', { required: true })
const props = defineProps<{ lines: Line[]; marked: ReadonlySet<string> }>()
const emit = defineEmits<{ mark: [id: string, on: boolean] }>()

const golfers = computed(() => props.lines.filter((l) => l.kind === 'golfer').length)
const list = useTemplateRef<HTMLElement>('list')
const narrow = useMediaQuery('(max-width: 700px)')
/** On paper everybody stands. */
const printing = useMediaQuery('print')
const heights = computed(() => ({ golfer: narrow.value ? 112 : 62, head: 40 }))
const virtual = useWindowVirtualizer(
  computed(() => ({
    count: props.lines.length,
    estimateSize: (i: number) => heights.value[props.lines[i]?.kind ?? 'golfer'],
    overscan: printing.value ? props.lines.length : 8,
    scrollMargin: list.value?.offsetTop ?? 0,
    getItemKey: (i: number) => {
      const l = props.lines[i]
      return l?.kind === 'golfer' ? l.row.id : (l?.text ?? i)
    },
  })),
)
watch(heights, () => virtual.value.measure())
const drawn = computed(() =>
  virtual.value.getVirtualItems().flatMap((v) => {
    const line = props.lines[v.index]
    return line ? [{ ...v, line, top: v.start - virtual.value.options.scrollMargin }] : []
  }),
)
</script>

<template>
  <div class="over">
    <label class="all"><input v-model="all" type="checkbox" aria-label="Choose everybody shown" /></label>
    <span class="small quiet many">{{ golfers }}</span>
    <SeasonAxis class="calendar" />
  </div>
  <div ref="list" role="list" class="board" :style="{ height: `${virtual.getTotalSize()}px` }">
    <div
      v-for="v in drawn"
      :key="String(v.key)"
      role="listitem"
      class="line"
      :aria-setsize="props.lines.length"
      :aria-posinset="v.index + 1"
      :style="{ transform: `translateY(${v.top}px)` }"
    >
      <SquadLine
        v-if="v.line.kind === 'golfer'"
        :row="v.line.row"
        :chosen="props.marked.has(v.line.row.id)"
        @update:chosen="(on: boolean) => v.line.kind === 'golfer' && emit('mark', v.line.row.id, on)"
      />
      <h2 v-else class="group">
        {{ v.line.text }} <span class="quiet small">{{ v.line.count }}</span>
      </h2>
    </div>
  </div>
</template>

<style scoped>
.over {
  position: sticky;
  top: 0;
  z-index: 3;
  display: grid;
  grid-template-columns: 32px 414px minmax(0, 1fr);
  align-items: center;
  background: rgb(var(--v-theme-background));
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.all {
  display: grid;
  place-items: center start;
  min-height: 40px;
}
.all input {
  width: 18px;
  height: 18px;
  accent-color: rgb(var(--v-theme-primary));
}
.board {
  position: relative;
}
.line {
  position: absolute;
  inset: 0 0 auto;
}
.group {
  height: 40px;
  margin: 0;
  padding-top: 14px;
  font-size: 1rem;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
@media (max-width: 700px) {
  .over {
    grid-template-columns: 32px 30px minmax(0, 1fr);
  }
}
@media print {
  .over {
    position: static;
  }
  .board {
    height: auto !important;
  }
  .line {
    position: static;
    transform: none !important;
    break-inside: avoid;
  }
}
</style>
