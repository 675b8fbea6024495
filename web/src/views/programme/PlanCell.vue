<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { ruleName } from '@/parts/rules'

import CellEditor from './CellEditor.vue'
import type { Item } from './grid'

/** One item in its week: what is done, marks of rules, lock; or its dose as it is being typed. */
const props = defineProps<{
  cell: Item
  rowName: string
  chosen: boolean
  also: boolean
  broken: Schemas['RuleResult'][]
  typing: string | undefined
  error: string
  landing: boolean
}>()
const emit = defineEmits<{ take: [text: string, line: boolean]; leave: [] }>()
</script>

<template>
  <CellEditor
    v-if="props.typing !== undefined"
    :typed="props.cell.typed"
    :first="props.typing"
    :label="`Dose of ${props.cell.name}`"
    :error="props.error"
    @take="(text, line) => emit('take', text, line)"
    @leave="emit('leave')"
  />
  <button
    v-else
    class="plain cell"
    :class="{ on: props.chosen, also: props.also, edited: props.cell.edited, landing: props.landing }"
    :data-id="props.cell.id"
    :data-place="props.cell.place"
    :data-drop="`item:${props.cell.id}`"
    :aria-pressed="props.chosen || props.also"
  >
    <span v-if="props.cell.name !== props.rowName" class="small other">{{ props.cell.name }}</span>
    <span class="num dose"
      >{{ props.cell.doseText }}<span v-if="props.cell.locked" class="lock small"> locked</span></span
    >
    <span class="small quiet">{{ props.cell.loadText }}</span>
    <span v-if="props.cell.note" class="small quiet note">{{ props.cell.note }}</span>
    <span v-for="b in props.broken" :key="b.rule" class="mark" :class="b.severity" :title="b.text">{{
      ruleName(b.rule)
    }}</span>
  </button>
</template>

<style scoped>
.cell {
  display: flex;
  flex-direction: column;
  width: 100%;
  padding: 3px 6px;
  border-left: 3px solid transparent;
  border-top: 2px solid transparent;
  min-height: 40px;
}
.cell:hover {
  background: rgb(var(--v-theme-surface-variant));
}
.cell.on,
.cell.also {
  background: rgb(var(--v-theme-surface));
  border-left-color: rgb(var(--v-theme-action));
}
.cell.also {
  outline: 1px solid rgb(var(--v-theme-action));
  outline-offset: -1px;
}
.cell.landing {
  border-top-color: rgb(var(--v-theme-action));
}
.cell.edited .dose::after {
  content: ' ✎';
}
.dose {
  white-space: normal;
}
.lock {
  font-weight: 650;
}
.note {
  font-style: italic;
  overflow: hidden;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
.other {
  font-weight: 650;
}
@media print {
  .cell {
    min-height: 0;
    padding: 1px 4px;
  }
}
</style>
