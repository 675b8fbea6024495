<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession } from '@/api/queries'
import ReasonRail from '@/parts/ReasonRail.vue'
import { toShown } from '@/parts/speed'

import { keyOf, layPaste, type Line, linesOf, looksLikeTrialsFile } from './cells'
import PainDialog from './PainDialog.vue'
import { useSheet } from './useSheet'

const props = defineProps<{ screenId: string; athleteId: string; meta: Schemas['Meta'] }>()
const emit = defineEmits<{ import: [text: string] }>()

const { data: session } = useSession()
const sheet = useSheet(props.screenId, props.athleteId, () => props.meta.tests)
const { screen, error, typed, saved, trouble, conflict, undo } = sheet

const lines = computed(() => linesOf(props.meta.tests))
const columns = computed(() => Math.max(...props.meta.tests.map((t) => t.trials)))
const here = ref({ line: 0, trial: 1 })
const pasteTrouble = ref('')
const pain = ref<{ key: string; line: Line; trial: number } | null>(null)
const skip = ref<{ line: Line; trial: number } | null>(null)
const skipReason = ref('')

const reads = computed(() => new Map((screen.value?.tests ?? []).map((t) => [t.test, t])))
const selected = computed(() => lines.value[here.value.line])
const selectedRead = computed(() => (selected.value ? reads.value.get(selected.value.test.id) : undefined))

function shownUnit(unit: string): string {
  if (unit === 'deg') return '°'
  return unit === 'm/s' ? (session.value?.units.speed ?? 'm/s') : unit
}
function locked(line: Line): boolean {
  return line.test.exertion === true && screen.value?.mayExert === false
}

interface Shown {
  text: string
  status: string
  trouble: { text: string; unlikely: boolean } | undefined
}
function shown(line: Line, trial: number): Shown {
  const key = keyOf(line.test.id, line.side, trial)
  const t = typed.get(key)
  const s = saved.value.get(key)
  return {
    text: t ? (t.text ?? '') : (s?.text ?? ''),
    status: t ? (t.status ?? '') || (t.text ? 'done' : '') : (s?.status ?? ''),
    trouble: trouble.get(key),
  }
}
function inCell(line: Line, trial: number): string {
  const c = shown(line, trial)
  return c.status === 'stopped' || c.status === 'skipped' ? c.status : c.text
}

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

function changeVariant(line: Line, variant: string) {
  const cells = []
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
          variant,
          pain: t.pain,
          region: t.region,
          note: t.note,
          confirmed: true,
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
      return move(index + 1, Math.min(trial, lines.value[index + 1]?.test.trials ?? trial))
    case 'ArrowUp':
      return move(index - 1, Math.min(trial, lines.value[index - 1]?.test.trials ?? trial))
    case 'ArrowRight':
      if (input.selectionStart === input.value.length) move(index, trial + 1)
      return
    case 'ArrowLeft':
      if (input.selectionStart === 0) move(index, trial - 1)
      return
    case 'Escape':
      sheet.drop(key)
      input.value = inCell(line, trial)
      return
    case 'z':
      if (event.ctrlKey || event.metaKey) {
        event.preventDefault()
        sheet.takeBack()
      }
      return
    case 's':
      if (/\d/.test(input.value) && line.test.flightTime && input.selectionStart === input.selectionEnd) return // 0.53s
      event.preventDefault()
      sheet.put([{ test: line.test.id, side: line.side, trial, status: 'stopped' }])
      return
    case 'k':
      event.preventDefault()
      skip.value = { line, trial }
      skipReason.value = ''
      return
    case 'p':
      event.preventDefault()
      pain.value = { key, line, trial }
  }
}

function savePain(p: { pain: number; region: string; note: string }) {
  if (!pain.value) return
  const { line, trial, key } = pain.value
  const text = typed.get(key)?.text ?? saved.value.get(key)?.text ?? ''
  const stops = p.pain >= 4
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
  pain.value = null
}
function saveSkip() {
  if (!skip.value) return
  const { line, trial } = skip.value
  sheet.put([{ test: line.test.id, side: line.side, trial, status: 'skipped', note: skipReason.value }])
  const next = after(lines.value.indexOf(line), trial)
  skip.value = null
  if (next) void nextTick(() => focus(...next))
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

function result(line: Line): string {
  const read = reads.value.get(line.test.id)
  if (!read || read.status === 'not-measured') return ''
  if (read.status === 'stopped') return line.first ? 'stopped' : ''
  const side = read.sides.find((s) => s.side === line.side)
  if (side?.result === undefined) return ''
  const value =
    line.test.unit === 'm/s'
      ? toShown(side.result, session.value?.units.speed ?? 'm/s').toFixed(1)
      : side.result.toFixed(line.test.decimals)
  const u = shownUnit(line.test.unit)
  return `${value}${u === '°' ? u : ' ' + u}${side.cv > 0 ? ` · CV ${side.cv.toFixed(1)}%` : ''}`
}
function last(line: Line): string {
  const side = reads.value.get(line.test.id)?.sides.find((s) => s.side === line.side)
  if (!side) return ''
  const fmt = (v: number) =>
    line.test.unit === 'm/s'
      ? toShown(v, session.value?.units.speed ?? 'm/s').toFixed(1)
      : v.toFixed(line.test.decimals)
  const parts = []
  if (side.change) parts.push(`last ${fmt(side.change.before)}`)
  if (side.target !== undefined)
    parts.push(line.test.rule === 'one-rm' ? `target ${side.target.toFixed(2)} × mass` : `target ${fmt(side.target)}`)
  return parts.join(' · ')
}
const troubles = computed(() => [...trouble.entries()])
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
      <p v-if="conflict" class="stop" role="alert">
        {{ conflict }} <v-btn color="action" @click="sheet.reload">Load again</v-btn>
      </p>
      <p v-if="screen && !screen.mayExert" class="attention" role="status">{{ screen.clearance }}</p>
      <p v-if="pasteTrouble" class="stop" role="alert">{{ pasteTrouble }}</p>
      <div v-if="troubles.length" class="troubles" role="alert">
        <p v-for="[key, t] in troubles" :key="key" class="small" :class="t.unlikely ? 'attention' : 'stop'">
          {{ t.text }}
          <v-btn v-if="t.unlikely" size="small" color="action" @click="sheet.confirm(key)">Keep it</v-btn>
          <v-btn size="small" @click="sheet.drop(key)">Put back</v-btn>
        </p>
      </div>
      <label v-if="screen" class="before small"
        >What came before today
        <input
          :value="screen.before"
          maxlength="500"
          placeholder="desk, work shift, travel, lesson, new club …"
          @change="sheet.setBefore(($event.target as HTMLInputElement).value)"
        />
      </label>
      <table v-if="screen" ref="table">
        <thead>
          <tr>
            <th scope="col">Test</th>
            <th scope="col">Side</th>
            <th v-for="c in columns" :key="c" scope="col" class="num">{{ c }}</th>
            <th scope="col">Result</th>
            <th scope="col">Last · target</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(line, i) in lines" :key="line.test.id + line.side">
            <tr v-if="i === 0 || lines[i - 1]?.test.group !== line.test.group" class="group">
              <th :colspan="columns + 4" scope="rowgroup">{{ line.test.group }}</th>
            </tr>
            <tr :class="{ on: i === here.line }">
              <th v-if="line.first" :rowspan="line.sides" scope="row" class="test">
                {{ line.test.name }}
                <span class="quiet small">{{
                  line.test.rule === 'one-rm' ? 'kg x reps @ reserve' : shownUnit(line.test.unit)
                }}</span>
                <select
                  v-if="line.test.variants && line.test.variants.length > 1"
                  class="variant small"
                  :aria-label="`How ${line.test.name} is done`"
                  :value="variantOf(line)"
                  @change="changeVariant(line, ($event.target as HTMLSelectElement).value)"
                >
                  <option v-for="v in line.test.variants" :key="v.id" :value="v.id">{{ v.name }}</option>
                </select>
              </th>
              <td class="small side" :class="{ open: ['trail', 'away', 'other'].includes(line.side) }">
                {{ line.side }}
              </td>
              <td v-for="c in columns" :key="c" class="cell">
                <input
                  v-if="c <= line.test.trials"
                  :data-cell="`${i}:${c}`"
                  :value="inCell(line, c)"
                  :disabled="locked(line)"
                  :aria-label="`${line.test.name} ${line.side} trial ${c}`"
                  :aria-invalid="shown(line, c).trouble ? 'true' : undefined"
                  :class="{
                    unlikely: shown(line, c).trouble?.unlikely,
                    wrong: shown(line, c).trouble && !shown(line, c).trouble?.unlikely,
                    state: ['stopped', 'skipped'].includes(shown(line, c).status),
                    lift: line.test.rule === 'one-rm',
                  }"
                  inputmode="decimal"
                  autocomplete="off"
                  @focus="here = { line: i, trial: c }"
                  @keydown="onKey($event, line, i, c)"
                  @change="commit(line, c, ($event.target as HTMLInputElement).value)"
                  @paste="onPaste($event, i, c)"
                />
              </td>
              <td class="num result" :data-testid="`result-${line.test.id}-${line.side}`">{{ result(line) }}</td>
              <td class="num small quiet">{{ last(line) }}</td>
            </tr>
          </template>
        </tbody>
      </table>
      <Teleport defer to="#foot-actions">
        <v-btn size="small" :disabled="undo.length === 0" @click="sheet.takeBack">Undo</v-btn>
      </Teleport>
    </div>
    <ReasonRail title="This test">
      <template v-if="selected">
        <h3>{{ selected.test.name }}</h3>
        <p class="small">{{ selected.test.setup }}</p>
        <template v-if="selectedRead && selectedRead.status !== 'not-measured'">
          <p class="small">{{ selectedRead.sentence }}</p>
          <p v-if="selectedRead.difference" class="small" data-testid="difference">
            {{ selectedRead.difference.sentence }}
          </p>
          <template v-for="s in selectedRead.sides" :key="s.side">
            <p v-if="s.change" class="small">{{ s.change.sentence }}</p>
            <p v-if="s.percentile !== undefined" class="small">
              {{ s.side }}: percentile {{ s.percentile }} of {{ s.reference }}.
            </p>
            <p v-if="s.outlier" class="small attention">
              Trial {{ s.outlier }} lies far from the others. It counts; look at it.
            </p>
          </template>
        </template>
        <p v-else class="small quiet">{{ selectedRead?.sentence }}</p>
        <p class="small quiet">Where test error and target come from: {{ selected.test.source }}.</p>
      </template>
      <h3>Keys</h3>
      <p class="small">
        <kbd>Enter</kbd> next trial · <kbd>p</kbd> pain · <kbd>s</kbd> stopped · <kbd>k</kbd> skipped ·
        <kbd>Ctrl Z</kbd> undo · paste a block from a spreadsheet
      </p>
    </ReasonRail>
    <PainDialog :open="pain !== null" :regions="props.meta.regions" @save="savePain" @close="pain = null" />
    <v-dialog :model-value="skip !== null" max-width="360" @update:model-value="skip = null">
      <form class="box" @submit.prevent="saveSkip">
        <h2>Skipped: why?</h2>
        <v-text-field v-model="skipReason" label="Reason" autofocus />
        <v-btn type="submit" variant="flat" color="action" :disabled="!skipReason.trim()">Skip this trial</v-btn>
      </form>
    </v-dialog>
  </div>
</template>

<style scoped>
.sheet {
  padding-top: 6px;
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
  padding: 0 8px 0 0;
}
.side.open {
  font-style: italic;
}
.cell {
  padding: 1px;
  width: 66px;
}
.cell input {
  width: 62px;
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
.cell input.lift {
  width: 76px;
  font-size: 0.92rem;
}
.cell input:disabled {
  background: transparent;
  border-style: dashed;
}
.cell input.state {
  font-size: 0.78rem;
  text-align: center;
  font-style: italic;
}
.cell input.unlikely {
  border: 2px solid rgb(var(--v-theme-warning));
}
.cell input.wrong {
  border: 2px solid rgb(var(--v-theme-error));
}
.result {
  padding-left: 10px;
  font-weight: 600;
}
.variant {
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  margin-left: 4px;
}
.before {
  display: flex;
  gap: 8px;
  align-items: center;
  padding-bottom: 4px;
}
.before input {
  flex: 1;
  max-width: 460px;
  font: inherit;
  color: inherit;
  background: transparent;
  border: 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.troubles p {
  margin: 2px 0;
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
</style>
