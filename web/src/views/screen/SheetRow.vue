<script setup lang="ts">
import { mdiRecordCircleOutline } from '@mdi/js'
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { decimalsShown, inShown, type Units } from '@/parts/units'

import {
  ACROSS,
  type CellChange,
  howTyped,
  cellKey,
  lastResult,
  type Line,
  recordable,
  under,
  unitShown,
} from './cells'
import CellInput from './CellInput.vue'
import type { Typing } from './typing'

/** What a row may ask of its sheet. */
export interface RowActions {
  commit: (line: Line, trial: number, text: string) => void
  key: (event: KeyboardEvent, line: Line, index: number, trial: number) => void
  here: (index: number, trial: number) => void
  paste: (event: ClipboardEvent, index: number, trial: number) => void
  rewrite: (line: Line, change: Partial<CellChange>) => void
  /** To the cell that was typed in last. */
  back: () => void
  record: (line: Line) => void
}

/**
 * One line of the sheet. It is drawn anew only when something of its own changes: props keep their identity while what
 * they hold stays the same, so that a result shows at once however long the sheet is.
 */
const props = defineProps<{
  line: Line
  index: number
  columns: number
  read: Schemas['TestRead'] | undefined
  trials: Schemas['Trial'][]
  variant: string
  locked: boolean
  /** The day of the screen, YYYY-MM-DD. */
  day: string
  units: Units
  on: boolean
  /** The golfer's own hand or direction of the line's side: left, right, or nothing. */
  hand?: string
  typing: Pick<Typing, 'typed' | 'trouble'>
  act: RowActions
}>()

const test = computed(() => props.line.test)
const unit = computed(() => unitShown(test.value, props.units))
const variant = computed(() => props.read?.variant ?? props.variant)
const gaveOut = computed(() => props.trials.find((t) => t.gaveOut)?.gaveOut ?? '')
const saved = computed(() => new Map(props.trials.map((t) => [t.trial, t])))

interface Cell {
  trial: number
  text: string
  state: boolean
  pain: number
  unlikely: boolean
  wrong: boolean
}
const cells = computed(() => {
  const out: Cell[][] = []
  for (let c = 1; c <= props.columns; c++) {
    out.push(
      under(props.line, c).map((trial) => {
        const key = cellKey({ test: test.value.id, side: props.line.side, trial })
        const t = props.typing.typed.get(key)
        const s = saved.value.get(trial)
        const status = t ? (t.status ?? '') : (s?.status ?? '')
        const state = status === 'stopped' || status === 'skipped'
        const trouble = props.typing.trouble.get(key)
        return {
          trial,
          text: state ? status : t ? (t.text ?? '') : (s?.text ?? ''),
          state,
          pain: (t ? t.pain : s?.pain) ?? 0,
          unlikely: trouble?.unlikely === true,
          wrong: trouble !== undefined && !trouble.unlikely,
        }
      }),
    )
  }
  return out
})

/** Pain of the row's trials, where it was: noted beneath the result, whatever the value says. */
const pains = computed(() =>
  cells.value
    .flat()
    .filter((c) => c.pain > 0)
    .map((c) => `pain ${c.pain} in trial ${c.trial}`)
    .join(', '),
)
/** A digit is for a cell: in a list of ways it would choose another ball. Escape and Enter go back to the cells. */
function inWays(event: KeyboardEvent) {
  if (/^[\d.,-]$/.test(event.key)) event.preventDefault()
  if (event.key !== 'Escape' && event.key !== 'Enter') return
  event.preventDefault()
  props.act.back()
}
const side = computed(() => props.read?.sides.find((s) => s.side === props.line.side))
const number = (v: number) => {
  const decimals = test.value.decimals + (test.value.rule === 'spread' ? 1 : 0)
  return inShown(v, test.value.unit, props.units).toFixed(decimalsShown(decimals, test.value.unit, props.units))
}
const result = computed(() => {
  const read = props.read
  if (read?.date !== props.day) return ''
  if (read.status === 'stopped') return props.line.first ? 'stopped' : ''
  const s = side.value
  if (s?.result === undefined) return ''
  const spread = test.value.rule === 'spread' ? 'SD ' : ''
  const off = s.fallOff !== undefined ? ` · −${s.fallOff.toFixed(0)}%` : ''
  const u = unit.value === '°' ? '°' : ` ${unit.value}`
  return `${spread}${number(s.result)}${u}${s.cv > 0 ? ` · CV ${s.cv.toFixed(1)}%` : ''}${off}`
})
const marks = { real: '→ real', unclear: '⇢ unclear', 'within error': '• within error' } as const
/** The last result done the same way, and how sure the change since then is. */
const last = computed(() => {
  const l = lastResult(props.read, props.line.side, props.day)
  if (!l) return ''
  return l.verdict ? `${number(l.value)} ${marks[l.verdict]}` : number(l.value)
})
const target = computed(() => {
  const t = side.value?.target
  if (t === undefined) return ''
  return test.value.rule === 'one-rm' ? `${t.toFixed(2)} × mass` : number(t)
})
</script>

<template>
  <tr role="row" :class="{ on: props.on }">
    <th v-if="props.line.first" :rowspan="props.line.sides" scope="row" role="rowheader" class="test">
      {{ test.name }}
      <span class="quiet small">{{ howTyped(test, unit) }}</span>
      <v-btn
        v-if="recordable(test)"
        size="small"
        density="compact"
        :prepend-icon="mdiRecordCircleOutline"
        :disabled="props.locked"
        @click="props.act.record(props.line)"
        >Record</v-btn
      >
      <select
        v-if="test.rule === 'one-rm'"
        class="variant small"
        :aria-label="`What gave out first in ${test.name}`"
        :value="gaveOut"
        @keydown="inWays"
        @change="
          props.act.rewrite(props.line, {
            gaveOut: ($event.target as HTMLSelectElement).value as CellChange['gaveOut'],
          })
        "
      >
        <option value="">gave out: not said</option>
        <option value="legs">legs gave out</option>
        <option value="back">back gave out</option>
        <option value="grip">grip gave out</option>
      </select>
      <select
        v-if="test.variants && test.variants.length > 1"
        class="variant small"
        :aria-label="`How ${test.name} is done`"
        :value="variant"
        @keydown="inWays"
        @change="props.act.rewrite(props.line, { variant: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="v in test.variants" :key="v.id" :value="v.id">{{ v.name }}</option>
      </select>
    </th>
    <td role="cell" class="small side" :class="{ open: ['trail', 'away', 'other'].includes(props.line.side) }">
      {{ props.line.side }} <span v-if="props.hand" class="quiet">{{ props.hand }}</span>
    </td>
    <td v-for="(column, c) in cells" :key="c" role="cell" class="cell">
      <CellInput
        v-for="cell in column"
        :key="cell.trial"
        :data-cell="`${props.index}:${cell.trial}`"
        :value="cell.text"
        :disabled="props.locked"
        :aria-label="`${test.name} ${props.line.side} trial ${cell.trial}`"
        :aria-invalid="cell.unlikely || cell.wrong ? 'true' : undefined"
        :placeholder="test.trials > ACROSS ? String(cell.trial) : undefined"
        :class="{
          unlikely: cell.unlikely,
          wrong: cell.wrong,
          state: cell.state,
          lift: test.rule === 'one-rm' || test.rule === 'ladder',
          hurt: cell.pain > 0,
        }"
        @focus="props.act.here(props.index, cell.trial)"
        @keydown="props.act.key($event, props.line, props.index, cell.trial)"
        @commit="props.act.commit(props.line, cell.trial, $event)"
        @paste="props.act.paste($event, props.index, cell.trial)"
      />
    </td>
    <td role="cell" class="num result" :data-testid="`result-${test.id}-${props.line.side}`">
      {{ result }}
      <span v-if="pains" class="pain small" data-testid="pain">{{ pains }}</span>
    </td>
    <td role="cell" class="num small quiet last">{{ last }}</td>
    <td role="cell" class="num small quiet target">{{ target }}</td>
  </tr>
</template>

<style scoped>
.test {
  text-align: left;
  font-weight: 550;
  padding: 2px 6px;
  max-width: 230px;
}
tr {
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.07);
}
tr.on {
  background: rgb(var(--v-theme-surface-variant));
}
.side {
  white-space: nowrap;
  padding: 0 4px 0 0;
}
.side.open {
  font-style: italic;
}
.cell {
  padding: 1px;
  width: 62px;
}
td.quiet {
  padding-left: 8px;
}
.cell input {
  width: 58px;
  height: 28px;
  text-align: right;
  font: inherit;
  font-variant-numeric: tabular-nums;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 2px;
  padding: 0 5px;
}
.cell input + input {
  margin-top: 2px;
}
.cell input::placeholder {
  color: rgba(var(--v-theme-on-surface), 0.4);
  font-size: var(--small);
}
.cell input.lift {
  width: 68px;
  padding: 0 3px;
  font-size: 0.92rem;
}
.cell input:disabled {
  background: transparent;
  border-style: dashed;
}
.cell input.state {
  font-size: var(--small);
  text-align: center;
  font-style: italic;
}
.cell input.unlikely {
  border: 2px solid rgb(var(--v-theme-warning));
}
.cell input.wrong {
  border: 2px solid rgb(var(--v-theme-error));
}
.cell input.hurt {
  border-left: 4px solid rgb(var(--v-theme-error));
}
.pain {
  display: block;
  font-weight: 550;
  white-space: normal;
  color: rgb(var(--v-theme-error));
}
.result {
  padding-left: 10px;
  font-weight: 600;
}
.result,
.target {
  white-space: normal;
}
@media (pointer: coarse) {
  .cell input {
    height: 44px;
    font-size: 1.05rem;
  }
  .test .v-btn,
  .variant {
    min-height: 44px;
  }
}
@container sheet (max-width: 860px) {
  tr {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px;
    padding: 4px 0;
  }
  .test {
    flex-basis: 100%;
    max-width: none;
    padding: 2px 0;
  }
  .side {
    width: 62px;
    padding: 0;
    white-space: normal;
  }
  .cell {
    width: auto;
  }
  .cell:empty {
    display: none;
  }
  .cell input {
    width: 50px;
    padding: 0 3px;
  }
  .result {
    padding-left: 8px;
  }
  .result:empty {
    display: none;
  }
  .last:not(:empty)::before {
    content: 'last ';
  }
  .target:not(:empty)::before {
    content: 'target ';
  }
}
.variant {
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  margin-left: 4px;
}
</style>
