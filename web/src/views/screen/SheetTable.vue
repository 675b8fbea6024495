<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useAthlete, useSession } from '@/api/queries'
import TermNote from '@/help/TermNote.vue'
import { handOf } from '@/parts/choices'

import { lateDialog } from '@/parts/late'
import { useTurns } from '@/parts/turns'
import { useUnits } from '@/parts/units'

import { type CellChange, cellKey, letterIsKey, type Line, recordable, rewritten, unitShown } from './cells'
import { hasParts } from './fields'
import SheetHead from './SheetHead.vue'
import SheetRail from './SheetRail.vue'
import SheetRow, { type RowActions } from './SheetRow.vue'
import SheetTroubles from './SheetTroubles.vue'
import { after, before, type Spot, vertical } from './sheetWalk'
import TrialActions from './TrialActions.vue'
import TrialDialogs from './TrialDialogs.vue'
import { usePaste } from './usePaste'
import { useSheet } from './useSheet'
import { useSheetLines } from './useSheetLines'
import { useTrialDialogs } from './useTrialDialogs'

const LiveGrip = lateDialog(() => import('./LiveGrip.vue'))
const PasteDialog = lateDialog(() => import('./PasteDialog.vue'), { opens: 'laid' })

const props = defineProps<{ screenId: string; athleteId: string; meta: Schemas['Meta'] }>()
const emit = defineEmits<{ import: [text: string] }>()

const { data: session } = useSession()
const { data: golfer } = useAthlete(() => props.athleteId)
const sheet = useSheet(props.screenId, props.athleteId, () => props.meta.tests)
const { screen, error, typed, saved, trouble, undo, undone } = sheet

const { lines, columns, reads, trialsOf } = useSheetLines(() => props.meta.tests, screen, typed)
/** What fills a screen is there first, the rest while it is being looked at. */
const drawn = useTurns(() => (screen.value ? lines.value.length : 0))
const here = ref<Spot>({ line: 0, trial: 1 })

const selected = computed(() => lines.value[here.value.line])
const chosen = computed(() =>
  selected.value
    ? `${selected.value.test.name} ${selected.value.side} trial ${here.value.trial}`.replace('  ', ' ')
    : '',
)
const selectedTrials = computed(() => (screen.value?.trials ?? []).filter((t) => t.test === selected.value?.test.id))

const units = useUnits()
function locked(line: Line): boolean {
  return line.test.exertion === true && screen.value?.mayExert === false
}
const shown = (line: Line, trial: number) => sheet.shown(cellKey({ test: line.test.id, side: line.side, trial }))
const inCell = (line: Line, trial: number) => sheet.inCell(cellKey({ test: line.test.id, side: line.side, trial }))

function variantOf(line: Line): string {
  return reads.value.get(line.test.id)?.variant ?? screen.value?.variants[line.test.id] ?? ''
}

function commit(line: Line, trial: number, raw: string) {
  const text = raw.trim()
  const c = shown(line, trial)
  if (text === inCell(line, trial)) return
  if (text === '' && c.text === '' && c.status === '') return
  const variant = variantOf(line)
  sheet.put([{ test: line.test.id, side: line.side, trial, text, ...(text && variant ? { variant } : {}) }])
}

/** Every done trial of a test again, with something about it changed. */
function rewrite(line: Line, change: Partial<CellChange>) {
  const cells = rewritten(saved.value, lines.value, line.test, change)
  if (cells.length > 0) sheet.put(cells)
}
const table = ref<HTMLTableElement>()
function focus(at: Spot) {
  const target = table.value?.querySelector<HTMLInputElement>(`[data-cell="${at.line}:${at.trial}"]`)
  target?.focus()
  target?.select()
}
/** From a cell to how its test is done; Escape leads back. */
function focusWays(line: number) {
  const row = table.value?.querySelector(`[data-cell^="${line}:"]`)?.closest('tr')
  row?.querySelector('select')?.focus()
}
const next = (at: Spot) => after(lines.value, locked, at)

function onKey(event: KeyboardEvent, line: Line, index: number, trial: number) {
  const input = event.target as HTMLInputElement
  const key = cellKey({ test: line.test.id, side: line.side, trial })
  const at = { line: index, trial }
  const move = (to: Spot) => {
    event.preventDefault()
    focus(to)
  }
  switch (event.key) {
    case 'Enter': {
      event.preventDefault()
      if (trouble.get(key)?.unlikely && input.value.trim() === (typed.get(key)?.text ?? '')) {
        sheet.confirm(key)
      } else commit(line, trial, input.value)
      const to = next(at)
      if (to) void nextTick(() => focus(to))
      return
    }
    case 'Tab': {
      const to = event.shiftKey ? before(lines.value, locked, at) : next(at)
      return to && move(to)
    }
    case 'ArrowDown':
      return move(vertical(lines.value, at, 1))
    case 'ArrowUp':
      return move(vertical(lines.value, at, -1))
    case 'ArrowRight':
      if (input.selectionStart === input.value.length) move({ line: index, trial: trial + 1 })
      return
    case 'ArrowLeft':
      if (input.selectionStart === 0) move({ line: index, trial: trial - 1 })
      return
    case 'Escape':
      sheet.drop(key)
      return
  }
  const letter = event.key.toLowerCase()
  if (event.ctrlKey || event.metaKey) {
    if (letter !== 'z' && letter !== 'y') return
    event.preventDefault()
    if (letter === 'z' && !event.shiftKey) sheet.takeBack()
    else sheet.bringBack()
    return
  }
  if (!letterIsKey(input)) return
  const does: Record<string, () => void> = {
    s: () => write(at, { status: 'stopped' }),
    k: () => dialogs.askSkip(at),
    v: () => focusWays(index),
    p: () => dialogs.askPain(at),
    ...(hasParts(line.test) ? { f: () => dialogs.askFields(at) } : {}),
    ...(recordable(line.test) ? { r: () => (recording.value = line) } : {}),
  }
  if (!does[event.key]) return
  event.preventDefault()
  does[event.key]?.()
}

/** Writes something into a cell: what is left out of the change is empty. */
function write(at: Spot, change: Partial<CellChange>) {
  const line = lines.value[at.line]
  if (line) sheet.put([{ test: line.test.id, side: line.side, trial: at.trial, ...change }])
}
function textAt(at: Spot): string {
  const line = lines.value[at.line]
  return line ? shown(line, at.trial).text : ''
}
const dialogs = useTrialDialogs<Spot>({ textAt, write, give, next, focus })
function give(at: Spot, text: string) {
  const line = lines.value[at.line]
  if (line) commit(line, at.trial, text)
}

const recording = ref<Line | null>(null)
const live = computed({
  get: () => recording.value !== null,
  set: (open: boolean) => {
    if (!open) recording.value = null
  },
})

const {
  trouble: pasteTrouble,
  laid: pasted,
  onPaste,
} = usePaste({
  screenId: props.screenId,
  lines: () => lines.value,
  put: (cells) => sheet.put(cells, 'paste'),
  file: (text) => emit('import', text),
})
function putPasted(cells: CellChange[]) {
  pasted.value = undefined
  sheet.put(cells, 'paste')
}

const act: RowActions = {
  commit,
  key: onKey,
  here: (line, trial) => (here.value = { line, trial }),
  paste: (event, line, trial) => onPaste(event, { line, trial }),
  rewrite,
  back: () => focus(here.value),
  record: (line) => (recording.value = line),
}
// Typing can start at once: the first cell is ready as soon as the sheet is.
const stopWaiting = watch(
  screen,
  (s) => {
    if (!s) return
    void nextTick(() => {
      focus({ line: 0, trial: 1 })
      stopWaiting()
    })
  },
  { immediate: true },
)
</script>

<template>
  <div class="split">
    <div class="sheet by-hand">
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <p v-if="screen && !screen.mayExert" class="attention" role="status">
        {{ screen.clearance }}
        <router-link :to="{ name: 'intake', params: { id: props.athleteId } }">To the intake</router-link>
      </p>
      <p v-if="pasteTrouble" class="stop" role="alert">{{ pasteTrouble }}</p>
      <SheetTroubles :typing="sheet" />
      <SheetHead
        v-if="screen"
        :screen="screen"
        :sets="props.meta.sets"
        :today="session?.today ?? ''"
        @change="sheet.under"
      />
      <table v-if="screen" ref="table" role="table">
        <thead role="rowgroup">
          <tr role="row">
            <th scope="col" role="columnheader">Test</th>
            <th scope="col" role="columnheader" class="of-side">
              <TermNote term="lead" :playing-side="golfer?.profile.playingSide">Side</TermNote>
            </th>
            <th v-for="c in columns" :key="c" scope="col" role="columnheader" class="num of-trial">{{ c }}</th>
            <th scope="col" role="columnheader" class="of-result">Result</th>
            <th scope="col" role="columnheader" class="of-last"><TermNote term="verdict">Last</TermNote></th>
            <th scope="col" role="columnheader" class="of-target">Target</th>
          </tr>
        </thead>
        <tbody role="rowgroup">
          <template v-for="(line, i) in lines.slice(0, drawn)" :key="line.test.id + line.side">
            <tr v-if="i === 0 || lines[i - 1]?.test.group !== line.test.group" class="group" role="row">
              <th :colspan="columns + 5" scope="rowgroup" role="rowheader">{{ line.test.group }}</th>
            </tr>
            <SheetRow
              :line="line"
              :index="i"
              :columns="columns"
              :read="reads.get(line.test.id)"
              :trials="trialsOf(line)"
              :variant="screen.variants[line.test.id] ?? ''"
              :locked="locked(line)"
              :day="screen.date"
              :units="units"
              :on="i === here.line"
              :hand="handOf(line.side, golfer?.profile.playingSide)"
              :typing="sheet"
              :act="act"
            />
          </template>
        </tbody>
      </table>
      <Teleport defer to="#foot-actions">
        <TrialActions
          v-if="drawn > 2"
          :what="chosen"
          :disabled="!selected || locked(selected)"
          :undo="undo.length > 0"
          :redo="undone.length > 0"
          :parts="hasParts(selected?.test)"
          @fields="dialogs.askFields(here)"
          @pain="dialogs.askPain(here)"
          @stopped="write(here, { status: 'stopped' })"
          @skip="dialogs.askSkip(here)"
          @undo="sheet.takeBack"
          @redo="sheet.bringBack"
        />
      </Teleport>
    </div>
    <SheetRail
      :athlete-id="props.athleteId"
      :line="drawn > 1 ? selected : undefined"
      :read="selected && reads.get(selected.test.id)"
      :trials="selectedTrials"
      :ready="(drawn > 1 && !!selected) || !!error"
    />
    <LiveGrip
      v-model="live"
      :test="recording?.test ?? props.meta.tests[0]!"
      :side="recording?.side ?? 'lead'"
      :tests="props.meta.tests"
      @keep="sheet.put($event, 'recording')"
    />
    <PasteDialog :laid="pasted" @put="putPasted" @close="pasted = undefined" />
    <TrialDialogs
      :dialogs="dialogs"
      :regions="props.meta.regions"
      :stops-at="props.meta.painStops"
      :test="selected?.test"
      :unit="selected ? unitShown(selected.test, units) : ''"
    />
  </div>
</template>

<style scoped>
.sheet {
  padding: 6px 12px 56px;
  container: sheet / inline-size;
}
table {
  border-collapse: collapse;
  width: 100%;
}
thead th {
  position: sticky;
  top: 0;
  background: rgb(var(--v-theme-background));
  text-align: left;
  font-size: var(--small);
  padding: 4px 6px;
  z-index: 1;
}
.group th {
  text-align: left;
  font-size: var(--small);
  padding: 10px 6px 2px;
  color: rgb(var(--v-theme-secondary));
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
/* What is drawn later moves no column. */
@container sheet (min-width: 930px) {
  table {
    table-layout: fixed;
  }
  .of-side {
    width: 80px;
  }
  .of-trial {
    width: 70px;
  }
  .of-last {
    width: 126px;
  }
  .of-target {
    width: 62px;
  }
  /* What is left goes to the name and the result. */
  .of-result {
    width: 166px;
  }
}
/* On a narrow screen each line is a block: the test, then its side with the trials, then what they come to. */
@container sheet (max-width: 860px) {
  table,
  tbody,
  .group,
  .group th {
    display: block;
  }
  thead {
    display: none;
  }
}
</style>
