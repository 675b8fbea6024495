<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { handOf } from '@/parts/choices'
import { numberShown, type Units } from '@/parts/units'
import { cellKey, howTyped, letterIsKey, SIDES, type Test, unitShown } from '@/views/screen/cells'
import CellInput from '@/views/screen/CellInput.vue'
import type { Typing } from '@/views/screen/typing'

import { clockAt, columnsOf, locked, nextSpot, type Spot, trialWords } from './stationCells'

/** One test of a station: golfers down in running order, trials across. */
const here = defineModel<Spot>({ required: true })
const props = defineProps<{
  rows: Schemas['StationRow'][]
  test: Test
  typings: Map<string, Typing>
  units: Units
  /** The day, YYYY-MM-DD. */
  day: string
  /** When it begins, HH:MM. */
  start: string
  /** Whether Enter goes to the next trial before the next golfer. */
  across: boolean
}>()
const emit = defineEmits<{
  put: [athleteId: string, cells: Schemas['CellChange'][]]
  pain: [at: Spot]
  skip: [at: Spot]
  undo: []
  redo: []
}>()

const columns = computed(() => columnsOf(props.test))
const unit = computed(() => unitShown(props.test, props.units))
const table = ref<HTMLTableElement>()
function focus(at: Spot) {
  const el = table.value?.querySelector<HTMLInputElement>(`[data-cell="${at.row}:${at.column}"]`)
  el?.focus()
  el?.select()
}
const key = (column: number) => cellKey({ test: props.test.id, trial: 1, ...columns.value[column] })
function next(at: Spot): Spot | undefined {
  const free = props.rows.flatMap((r, i) => (locked(r, props.test) ? [] : [i]))
  return nextSpot(free, columns.value.length, props.across, at)
}

/** Writes something into a cell: what is left out of the change is empty. */
function write(at: Spot, change: Partial<Schemas['CellChange']>) {
  const r = props.rows[at.row]
  const c = columns.value[at.column]
  if (r && c) emit('put', r.golfer.id, [{ test: props.test.id, side: c.side, trial: c.trial, ...change }])
}
function commit(at: Spot, raw: string) {
  const r = props.rows[at.row]
  const text = raw.trim()
  if (!r || text === props.typings.get(r.golfer.id)?.inCell(key(at.column))) return
  const read = r.tests.find((x) => x.test === props.test.id && x.date === props.day)
  const variant = read?.variant ?? r.variants[props.test.id]
  write(at, { text, ...(text && variant ? { variant } : {}) })
}

function onKey(event: KeyboardEvent, at: Spot) {
  const input = event.target as HTMLInputElement
  const typing = props.typings.get(props.rows[at.row]?.golfer.id ?? '')
  const end = input.selectionStart === input.value.length
  const moves: Record<string, Spot | false> = {
    ArrowDown: { ...at, row: at.row + 1 },
    ArrowUp: { ...at, row: at.row - 1 },
    ArrowRight: end && { ...at, column: at.column + 1 },
    ArrowLeft: input.selectionStart === 0 && { ...at, column: at.column - 1 },
  }
  const move = moves[event.key]
  const letter = event.key.toLowerCase()
  if (event.key === 'Enter') {
    event.preventDefault()
    const k = key(at.column)
    const same = input.value.trim() === (typing?.typed.get(k)?.text ?? '')
    if (typing?.trouble.get(k)?.unlikely && same) typing.confirm(k)
    else commit(at, input.value)
    const to = next(at)
    if (to) void nextTick(() => focus(to))
  } else if (move) {
    event.preventDefault()
    focus(move)
  } else if (event.key === 'Escape') {
    typing?.drop(key(at.column))
  } else if ((event.ctrlKey || event.metaKey) && (letter === 'z' || letter === 'y')) {
    event.preventDefault()
    if (letter === 'z' && !event.shiftKey) emit('undo')
    else emit('redo')
  } else if (!event.ctrlKey && !event.metaKey && 'skp'.includes(event.key) && letterIsKey(input)) {
    event.preventDefault()
    if (event.key === 's') write(at, { status: 'stopped' })
    else if (event.key === 'k') emit('skip', at)
    else emit('pain', at)
  }
}

function result(r: Schemas['StationRow'], side: string): string {
  const read = r.tests.find((t) => t.test === props.test.id)
  const s = read?.sides.find((x) => x.side === side)
  if (read?.date !== props.day) return ''
  if (read.status === 'stopped') return 'stopped'
  if (s?.result === undefined) return ''
  const v = numberShown(s.result, props.test.unit, props.test.decimals, props.units)
  return v + (s.cv > 0 ? ` · CV ${s.cv.toFixed(1)}%` : '')
}
/** Pain of the golfer's trials of this test. */
function painOf(r: Schemas['StationRow']): string {
  return columns.value
    .map((c, j) => ({ c, pain: props.typings.get(r.golfer.id)?.shown(key(j)).pain ?? 0 }))
    .filter((x) => x.pain > 0)
    .map((x) => `pain ${x.pain} in ${trialWords(x.c)}`)
    .join(', ')
}
/** The text of a cell, typed or saved. */
const textAt = (at: Spot) => props.typings.get(props.rows[at.row]?.golfer.id ?? '')?.shown(key(at.column)).text ?? ''

defineExpose({ focus, next, write, commit, textAt })
</script>

<template>
  <table ref="table" role="table">
    <thead role="rowgroup">
      <tr role="row">
        <th scope="col" role="columnheader">At</th>
        <th scope="col" role="columnheader">Golfer</th>
        <th v-for="c in columns" :key="c.side + c.trial" scope="col" role="columnheader" class="num">
          {{ c.side }} {{ c.trial }}
        </th>
        <th scope="col" role="columnheader">Result {{ howTyped(props.test, unit) }}</th>
      </tr>
    </thead>
    <tbody role="rowgroup">
      <tr v-for="(r, i) in props.rows" :key="r.golfer.id" :class="{ on: i === here.row }" role="row">
        <td role="cell" class="num quiet at">{{ r.start < 0 ? '–' : clockAt(props.start, r.start) }}</td>
        <th scope="row" role="rowheader">
          {{ r.golfer.name }}
          <span v-if="locked(r, props.test)" class="small attention" :title="r.golfer.clearance"
            >not cleared for effort</span
          >
        </th>
        <td v-for="(c, j) in columns" :key="c.side + c.trial" role="cell" class="cell">
          <span class="which small quiet">{{ c.side }} {{ c.trial }}</span>
          <span v-if="handOf(c.side, r.golfer.plays)" class="hand small quiet">{{
            handOf(c.side, r.golfer.plays)
          }}</span>
          <CellInput
            :data-cell="`${i}:${j}`"
            :value="props.typings.get(r.golfer.id)?.inCell(key(j)) ?? ''"
            :disabled="locked(r, props.test)"
            :aria-label="`${r.golfer.name} ${props.test.name} ${c.side} trial ${c.trial}`"
            :class="{
              unlikely: props.typings.get(r.golfer.id)?.trouble.get(key(j))?.unlikely,
              wrong:
                props.typings.get(r.golfer.id)?.trouble.has(key(j)) &&
                !props.typings.get(r.golfer.id)?.trouble.get(key(j))?.unlikely,
            }"
            @focus="here = { row: i, column: j }"
            @keydown="onKey($event, { row: i, column: j })"
            @commit="commit({ row: i, column: j }, $event)"
          />
        </td>
        <td role="cell" class="num result">
          <span v-for="side in SIDES[props.test.sides]" :key="side" :data-testid="`station-result-${i}-${side}`">{{
            result(r, side) ? `${side} ${result(r, side)}` : ''
          }}</span>
          <span v-if="painOf(r)" class="stop small" data-testid="pain">{{ painOf(r) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 3px 8px;
}
thead th {
  font-size: var(--small);
  font-weight: 550;
}
.hand {
  display: block;
  text-align: right;
}
.which {
  display: none;
}
tbody tr {
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
tr.on {
  background: rgb(var(--v-theme-surface-variant));
}
tbody th {
  font-size: 1.3rem;
  font-weight: 600;
  min-width: 150px;
}
.cell {
  padding: 2px;
}
.cell input {
  width: 76px;
  height: 44px;
  text-align: right;
  font: inherit;
  font-size: 1.3rem;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 2px;
  padding: 0 8px;
}
.cell input:disabled {
  background: transparent;
  border-style: dashed;
}
.cell input.unlikely {
  border: 2px solid rgb(var(--v-theme-warning));
}
.cell input.wrong {
  border: 2px solid rgb(var(--v-theme-error));
}
.result span + span {
  margin-left: 12px;
}
/* On a narrow screen each golfer is a block: the name, then the trials with their names over them. */
@media (max-width: 900px) {
  table,
  tbody {
    display: block;
  }
  thead {
    display: none;
  }
  tr {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 4px 8px;
    padding: 8px 0;
  }
  .at {
    order: -1;
  }
  tbody th {
    flex: 1;
    min-width: 0;
    flex-basis: calc(100% - 90px);
  }
  th,
  td,
  .cell {
    padding: 0;
  }
  .which {
    display: block;
  }
  .result:empty {
    display: none;
  }
}
</style>
