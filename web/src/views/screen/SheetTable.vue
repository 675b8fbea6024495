<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession } from '@/api/queries'
import ReasonRail from '@/parts/ReasonRail.vue'

import {
  ACROSS,
  type CellChange,
  keyOf,
  layPaste,
  letterIsKey,
  type Line,
  linesOf,
  looksLikeTrialsFile,
  recordable,
  testsOf,
  under,
} from './cells'
import LiveGrip from './LiveGrip.vue'
import PainDialog, { type Pain } from './PainDialog.vue'
import SheetHead from './SheetHead.vue'
import SheetRow, { type RowActions } from './SheetRow.vue'
import SheetTroubles from './SheetTroubles.vue'
import SkipDialog from './SkipDialog.vue'
import TestRail from './TestRail.vue'
import TrialActions from './TrialActions.vue'
import { useSheet } from './useSheet'

const props = defineProps<{ screenId: string; athleteId: string; meta: Schemas['Meta'] }>()
const emit = defineEmits<{ import: [text: string] }>()

const { data: session } = useSession()
const sheet = useSheet(props.screenId, props.athleteId, () => props.meta.tests)
const { screen, error, typed, saved, trouble, undo, undone } = sheet

const tests = computed(() =>
  testsOf(props.meta.tests, screen.value?.set ?? [], [
    ...(screen.value?.trials ?? []).map((t) => t.test),
    ...[...typed.values()].map((c) => c.test),
  ]),
)
/** Which tests, as one text: lines keep their identity while it stays the same. */
const testIds = computed(() => tests.value.map((t) => t.id).join(' '))
const lines = computed(() => {
  const wanted = testIds.value.split(' ')
  return linesOf(wanted.flatMap((id) => props.meta.tests.find((t) => t.id === id) ?? []))
})
const none: Schemas['Trial'][] = []
/** The trials of each line; a line whose trials stay the same keeps its list. */
const trialsOf = computed((before: Map<string, Schemas['Trial'][]> | undefined) => {
  const now = new Map<string, Schemas['Trial'][]>()
  for (const t of screen.value?.trials ?? []) {
    const key = `${t.test}|${t.side ?? ''}`
    now.set(key, [...(now.get(key) ?? []), t])
  }
  for (const [key, list] of now) {
    const old = before?.get(key)
    if (old?.length === list.length && old.every((t, i) => t === list[i])) now.set(key, old)
  }
  return now
})
const columns = computed(() => Math.min(ACROSS, Math.max(1, ...tests.value.map((t) => t.trials))))
const here = ref({ line: 0, trial: 1 })
const pasteTrouble = ref('')
const pain = ref<{ key: string; line: Line; trial: number } | null>(null)
const skip = ref<{ line: Line; trial: number } | null>(null)
/** Where typing goes on after a dialog. */
let resume: [line: number, trial: number] = [0, 1]

const reads = computed(() => new Map((screen.value?.tests ?? []).map((t) => [t.test, t])))
const selected = computed(() => lines.value[here.value.line])
const chosen = computed(() =>
  selected.value
    ? `${selected.value.test.name} ${selected.value.side} trial ${here.value.trial}`.replace('  ', ' ')
    : '',
)
const selectedTrials = computed(() => (screen.value?.trials ?? []).filter((t) => t.test === selected.value?.test.id))

const speedUnit = computed(() => session.value?.units.speed ?? 'm/s')
function locked(line: Line): boolean {
  return line.test.exertion === true && screen.value?.mayExert === false
}
const shown = (line: Line, trial: number) => sheet.shown(keyOf(line.test.id, line.side, trial))
const inCell = (line: Line, trial: number) => sheet.inCell(keyOf(line.test.id, line.side, trial))

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
  const cells: CellChange[] = []
  for (const side of lines.value.filter((l) => l.test.id === line.test.id)) {
    for (let trial = 1; trial <= line.test.trials; trial++) {
      const t = saved.value.get(keyOf(line.test.id, side.side, trial))
      if (t)
        cells.push({
          test: t.test,
          side: side.side,
          trial,
          text: t.text,
          status: t.status,
          variant: t.variant,
          pain: t.pain,
          region: t.region,
          note: t.note,
          gaveOut: t.gaveOut as CellChange['gaveOut'],
          device: t.device,
          confirmed: true,
          ...change,
        })
    }
  }
  if (cells.length > 0) sheet.put(cells)
}
const table = ref<HTMLTableElement>()
function focus(line: number, trial: number) {
  const target = table.value?.querySelector<HTMLInputElement>(`[data-cell="${line}:${trial}"]`)
  target?.focus()
  target?.select()
}

/** The next cell in the order of the protocol: next trial, next side, next test. */
function after(line: number, trial: number): [number, number] | undefined {
  const l = lines.value[line]
  if (l && trial < l.test.trials && !locked(l)) return [line, trial + 1]
  for (let i = line + 1; i < lines.value.length; i++) {
    const n = lines.value[i]
    if (n && !locked(n)) return [i, 1]
  }
  return undefined
}

/** Up or down: within the stacked trials of a long test first, then to the next line. */
function vertical(index: number, trial: number, by: 1 | -1): [number, number] {
  const stacked = trial + by * ACROSS
  if (stacked >= 1 && stacked <= (lines.value[index]?.test.trials ?? 0)) return [index, stacked]
  const next = lines.value[index + by]
  if (!next) return [index, trial]
  const column = ((trial - 1) % ACROSS) + 1
  const places = under(next, column)
  return [index + by, (by === 1 ? places[0] : places.at(-1)) ?? next.test.trials]
}

function onKey(event: KeyboardEvent, line: Line, index: number, trial: number) {
  const input = event.target as HTMLInputElement
  const key = keyOf(line.test.id, line.side, trial)
  const move = (l: number, t: number) => {
    event.preventDefault()
    focus(l, t)
  }
  switch (event.key) {
    case 'Enter': {
      event.preventDefault()
      if (trouble.get(key)?.unlikely && input.value.trim() === (typed.get(key)?.text ?? '')) {
        sheet.confirm(key)
      } else commit(line, trial, input.value)
      const next = after(index, trial)
      if (next) void nextTick(() => focus(...next))
      return
    }
    case 'ArrowDown':
      return move(...vertical(index, trial, 1))
    case 'ArrowUp':
      return move(...vertical(index, trial, -1))
    case 'ArrowRight':
      if (input.selectionStart === input.value.length) move(index, trial + 1)
      return
    case 'ArrowLeft':
      if (input.selectionStart === 0) move(index, trial - 1)
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
    s: () => stopped(line, trial),
    k: () => askSkip(line, index, trial),
    p: () => askPain(line, index, trial),
    ...(recordable(line.test) ? { r: () => (recording.value = line) } : {}),
  }
  if (!does[event.key]) return
  event.preventDefault()
  does[event.key]?.()
}

function stopped(line: Line, trial: number) {
  sheet.put([{ test: line.test.id, side: line.side, trial, status: 'stopped' }])
}
function askSkip(line: Line, index: number, trial: number) {
  skip.value = { line, trial }
  resume = [index, trial]
}
function askPain(line: Line, index: number, trial: number) {
  pain.value = { key: keyOf(line.test.id, line.side, trial), line, trial }
  resume = [index, trial]
}

const recording = ref<Line | null>(null)
const live = computed({
  get: () => recording.value !== null,
  set: (open: boolean) => {
    if (!open) recording.value = null
  },
})

function savePain(p: Pain, stops: boolean) {
  if (!pain.value) return
  const { line, trial, key } = pain.value
  const text = typed.get(key)?.text ?? saved.value.get(key)?.text ?? ''
  sheet.put([
    {
      test: line.test.id,
      side: line.side,
      trial,
      text: stops ? '' : text,
      status: stops || !text ? 'stopped' : 'done',
      pain: p.pain,
      region: p.region,
      note: p.note,
    },
  ])
  resume = after(resume[0], trial) ?? resume
  pain.value = null
}
function saveSkip(note: string) {
  if (!skip.value) return
  const { line, trial } = skip.value
  sheet.put([{ test: line.test.id, side: line.side, trial, status: 'skipped', note }])
  resume = after(resume[0], trial) ?? resume
  skip.value = null
}

function onPaste(event: ClipboardEvent, index: number, trial: number) {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  pasteTrouble.value = ''
  if (looksLikeTrialsFile(text)) {
    event.preventDefault()
    emit('import', text)
    return
  }
  if (!/[\t\n]/.test(text.trim())) return
  event.preventDefault()
  const laid = layPaste(text, lines.value, { line: index, trial })
  if ('error' in laid) pasteTrouble.value = laid.error
  else sheet.put(laid.cells, 'paste')
}

const act: RowActions = {
  commit,
  key: onKey,
  here: (line, trial) => (here.value = { line, trial }),
  paste: onPaste,
  rewrite,
  record: (line) => (recording.value = line),
}
// Typing can start at once: the first cell is ready as soon as the sheet is.
const stopWaiting = watch(
  screen,
  (s) => {
    if (!s) return
    void nextTick(() => {
      focus(0, 1)
      stopWaiting()
    })
  },
  { immediate: true },
)
</script>

<template>
  <div class="split">
    <div class="sheet">
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <p v-if="screen && !screen.mayExert" class="attention" role="status">{{ screen.clearance }}</p>
      <p v-if="pasteTrouble" class="stop" role="alert">{{ pasteTrouble }}</p>
      <SheetTroubles :typing="sheet" />
      <SheetHead
        v-if="screen"
        :screen="screen"
        :sets="props.meta.sets"
        :today="session?.today ?? ''"
        @change="sheet.under"
      />
      <table v-if="screen" ref="table">
        <thead>
          <tr>
            <th scope="col">Test</th>
            <th scope="col">Side</th>
            <th v-for="c in columns" :key="c" scope="col" class="num">{{ c }}</th>
            <th scope="col">Result</th>
            <th scope="col">Last</th>
            <th scope="col">Target</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(line, i) in lines" :key="line.test.id + line.side">
            <tr v-if="i === 0 || lines[i - 1]?.test.group !== line.test.group" class="group">
              <th :colspan="columns + 5" scope="rowgroup">{{ line.test.group }}</th>
            </tr>
            <SheetRow
              :line="line"
              :index="i"
              :columns="columns"
              :read="reads.get(line.test.id)"
              :trials="trialsOf.get(line.test.id + '|' + line.side) ?? none"
              :variant="screen.variants[line.test.id] ?? ''"
              :locked="locked(line)"
              :speed="speedUnit"
              :on="i === here.line"
              :typing="sheet"
              :act="act"
            />
          </template>
        </tbody>
      </table>
      <Teleport defer to="#foot-actions">
        <TrialActions
          :what="chosen"
          :disabled="!selected || locked(selected)"
          :undo="undo.length > 0"
          :redo="undone.length > 0"
          @pain="selected && askPain(selected, here.line, here.trial)"
          @stopped="selected && stopped(selected, here.trial)"
          @skip="selected && askSkip(selected, here.line, here.trial)"
          @undo="sheet.takeBack"
          @redo="sheet.bringBack"
        />
      </Teleport>
    </div>
    <ReasonRail title="This test">
      <TestRail v-if="selected" :test="selected.test" :read="reads.get(selected.test.id)" :trials="selectedTrials" />
      <p v-if="selected && (selected.test.flightTime || selected.test.quality === 'ground-force')" class="small">
        From plates:
        <router-link :to="{ name: 'force', params: { id: props.athleteId } }">bring in or record force</router-link>
        fills this row.
      </p>
      <h3>Keys</h3>
      <p class="small">
        <kbd>Enter</kbd> next trial · <kbd>p</kbd> pain · <kbd>s</kbd> stopped · <kbd>k</kbd> skipped ·
        <kbd>r</kbd> record grip · <kbd>Ctrl Z</kbd> undo · <kbd>Ctrl Y</kbd> redo · paste a block from a spreadsheet
      </p>
    </ReasonRail>
    <LiveGrip
      v-model="live"
      :test="recording?.test ?? props.meta.tests[0]!"
      :side="recording?.side ?? 'lead'"
      :tests="props.meta.tests"
      @keep="sheet.put($event, 'recording')"
    />
    <PainDialog
      :open="pain !== null"
      :regions="props.meta.regions"
      :stops-at="props.meta.painStops"
      @save="savePain"
      @close="pain = null"
      @closed="focus(...resume)"
    />
    <SkipDialog :open="skip !== null" @save="saveSkip" @close="skip = null" @closed="focus(...resume)" />
  </div>
</template>

<style scoped>
.sheet {
  padding-top: 6px;
}
@media (max-width: 900px) {
  .sheet {
    overflow-x: auto;
  }
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
  font-size: 0.8rem;
  padding: 4px 6px;
  z-index: 1;
}
.group th {
  text-align: left;
  font-size: 0.8rem;
  padding: 10px 6px 2px;
  color: rgb(var(--v-theme-secondary));
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
</style>
