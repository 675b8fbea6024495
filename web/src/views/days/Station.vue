<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, onBeforeUnmount, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, must, type Schemas } from '@/api/client'
import { useChanges, useForget, useMeta, useSession } from '@/api/queries'
import { toShown } from '@/parts/speed'
import { unsentKey } from '@/parts/unsent'
import { howTyped, keyOf, letterIsKey, SIDES, type Test } from '@/views/screen/cells'
import CellInput from '@/views/screen/CellInput.vue'
import PainDialog, { type Pain } from '@/views/screen/PainDialog.vue'
import SkipDialog from '@/views/screen/SkipDialog.vue'
import SheetTroubles from '@/views/screen/SheetTroubles.vue'
import TrialActions from '@/views/screen/TrialActions.vue'
import { createTyping, type Typing } from '@/views/screen/typing'
import { trialsByKey, unitOf } from '@/views/screen/useSheet'

/** One station of a screen day: one test at a time, golfers down in running order. */
const props = defineProps<{ dayId: string; station: number }>()
const router = useRouter()
const client = useQueryClient()
const forget = useForget()
const { data: meta } = useMeta()
const { data: session } = useSession()
const queryKey = computed(() => ['station', props.dayId, props.station])
const { data: sheet, error } = useQuery({
  queryKey,
  shallow: true,
  queryFn: () =>
    must(
      api.GET('/days/{dayId}/stations/{station}', {
        params: { path: { dayId: props.dayId, station: props.station } },
      }),
    ),
})
useChanges(() => client.invalidateQueries({ queryKey: queryKey.value }))

const station = computed(() => sheet.value?.day.stations[props.station])
const tests = computed(() =>
  (station.value?.tests ?? []).flatMap((id) => meta.value?.tests.find((t) => t.id === id) ?? []),
)
const chosen = ref('')
const test = computed<Test | undefined>(() => tests.value.find((t) => t.id === chosen.value) ?? tests.value[0])
const rows = computed(() => sheet.value?.rows ?? [])
const columns = computed(() => {
  const t = test.value
  if (!t) return []
  return SIDES[t.sides].flatMap((side) => Array.from({ length: t.trials }, (_, i) => ({ side, trial: i + 1 })))
})
const speed = computed(() => session.value?.units.speed ?? 'm/s')
const unit = computed(() => {
  const u = test.value?.unit ?? ''
  return u === 'deg' ? '°' : u === 'm/s' ? speed.value : u
})

/** Typing of each golfer, made when the golfer is first met. */
const typings = reactive(new Map<string, Typing>())
const saved = computed(() => new Map(rows.value.map((r) => [r.golfer.id, trialsByKey(r.trials)])))
function typingOf(id: string): Typing {
  let t = typings.get(id)
  if (!t) {
    t = createTyping({
      store: unsentKey(`station.${props.dayId}.${id}`),
      saved: () => saved.value.get(id) ?? new Map(),
      save: async (cells) => {
        await must(
          api.PATCH('/days/{dayId}/golfers/{athleteId}', {
            params: { path: { dayId: props.dayId, athleteId: id } },
            body: { cells },
          }),
        )
        await client.invalidateQueries({ queryKey: queryKey.value })
        void forget(id)
      },
      unitOf: (test_) => unitOf(meta.value?.tests ?? [], test_, speed.value),
      ready: () => sheet.value !== undefined,
    })
    if (t.typed.size > 0) t.later(0)
    typings.set(id, t)
  }
  return t
}
watch(rows, (r) => r.forEach((x) => typingOf(x.golfer.id)), { immediate: true })
onBeforeUnmount(() => typings.forEach((t) => t.close()))
/** What was typed last, by whom, so that it can be taken back. */
const order = reactive<string[]>([])
function put(id: string, cells: Schemas['CellChange'][]) {
  typingOf(id).put(cells)
  order.push(id)
  undone.length = 0
}
/** And what was taken back, so that it can be brought back. */
const undone = reactive<string[]>([])
function takeBack() {
  const id = order.pop()
  if (!id) return
  typingOf(id).takeBack()
  undone.push(id)
}
function bringBack() {
  const id = undone.pop()
  if (!id) return
  typingOf(id).bringBack()
  order.push(id)
}

const here = ref({ row: 0, column: 0 })
const across = ref(false)
const table = ref<HTMLTableElement>()
function focus(row: number, column: number) {
  const el = table.value?.querySelector<HTMLInputElement>(`[data-cell="${row}:${column}"]`)
  el?.focus()
  el?.select()
}
const locked = (r: Schemas['StationRow']) => test.value?.exertion === true && !r.golfer.mayExert
const key = (column: number) => {
  const c = columns.value[column]
  return keyOf(test.value?.id ?? '', c?.side ?? '', c?.trial ?? 1)
}
function commit(row: number, column: number, raw: string) {
  const r = rows.value[row]
  const c = columns.value[column]
  const t = test.value
  if (!r || !c || !t) return
  const text = raw.trim()
  const typing = typingOf(r.golfer.id)
  if (text === typing.inCell(key(column))) return
  const variant = r.tests.find((x) => x.test === t.id)?.variant ?? r.variants[t.id]
  put(r.golfer.id, [{ test: t.id, side: c.side, trial: c.trial, text, ...(text && variant ? { variant } : {}) }])
}
/** The next golfer, and after the last one the first golfer's next trial; or, across, the next trial first. */
function next(row: number, column: number): [number, number] | undefined {
  const free = rows.value.map((r, i) => (locked(r) ? -1 : i)).filter((i) => i >= 0)
  if (across.value) {
    if (column + 1 < columns.value.length) return [row, column + 1]
    const n = free.find((i) => i > row)
    return n === undefined ? undefined : [n, 0]
  }
  const n = free.find((i) => i > row)
  if (n !== undefined) return [n, column]
  return column + 1 < columns.value.length && free[0] !== undefined ? [free[0], column + 1] : undefined
}
const pain = ref<{ row: number; column: number } | null>(null)
const skip = ref<{ row: number; column: number } | null>(null)
/** Where typing goes on after a dialog. */
let resume: [row: number, column: number] = [0, 0]
function mark(row: number, column: number, change: Partial<Schemas['CellChange']>) {
  const r = rows.value[row]
  const c = columns.value[column]
  if (r && c && test.value) put(r.golfer.id, [{ test: test.value.id, side: c.side, trial: c.trial, ...change }])
}
function onKey(event: KeyboardEvent, row: number, column: number) {
  const input = event.target as HTMLInputElement
  const id = rows.value[row]?.golfer.id ?? ''
  const typing = typingOf(id)
  const stop = () => event.preventDefault()
  switch (event.key) {
    case 'Enter': {
      stop()
      const k = key(column)
      if (typing.trouble.get(k)?.unlikely && input.value.trim() === (typing.typed.get(k)?.text ?? '')) typing.confirm(k)
      else commit(row, column, input.value)
      const to = next(row, column)
      if (to) void nextTick(() => focus(...to))
      return
    }
    case 'ArrowDown':
      stop()
      return focus(row + 1, column)
    case 'ArrowUp':
      stop()
      return focus(row - 1, column)
    case 'ArrowRight':
      if (input.selectionStart === input.value.length) {
        stop()
        focus(row, column + 1)
      }
      return
    case 'ArrowLeft':
      if (input.selectionStart === 0) {
        stop()
        focus(row, column - 1)
      }
      return
    case 'Escape':
      typing.drop(key(column))
      return
  }
  const letter = event.key.toLowerCase()
  if (event.ctrlKey || event.metaKey) {
    if (letter !== 'z' && letter !== 'y') return
    stop()
    if (letter === 'z' && !event.shiftKey) takeBack()
    else bringBack()
    return
  }
  if (!letterIsKey(input)) return
  const does: Record<string, () => void> = {
    s: () => mark(row, column, { status: 'stopped' }),
    k: () => askSkip(row, column),
    p: () => askPain(row, column),
  }
  if (!does[event.key]) return
  stop()
  does[event.key]?.()
}
function askSkip(row: number, column: number) {
  skip.value = { row, column }
  resume = [row, column]
}
function askPain(row: number, column: number) {
  pain.value = { row, column }
  resume = [row, column]
}
function savePain(p: Pain, stops: boolean) {
  if (!pain.value) return
  const { row, column } = pain.value
  const text = typingOf(rows.value[row]?.golfer.id ?? '').inCell(key(column))
  mark(row, column, { text: stops ? '' : text, status: stops || !text ? 'stopped' : 'done', ...p })
  resume = next(row, column) ?? resume
  pain.value = null
}
function saveSkip(note: string) {
  if (!skip.value) return
  mark(skip.value.row, skip.value.column, { status: 'skipped', note })
  resume = next(...resume) ?? resume
  skip.value = null
}

function result(r: Schemas['StationRow'], side: string): string {
  const read = r.tests.find((t) => t.test === test.value?.id)
  const s = read?.sides.find((x) => x.side === side)
  if (!read || !test.value) return ''
  if (read.status === 'stopped') return 'stopped'
  if (s?.result === undefined) return ''
  const v =
    test.value.unit === 'm/s' ? toShown(s.result, speed.value).toFixed(1) : s.result.toFixed(test.value.decimals)
  return v + (s.cv > 0 ? ` · CV ${s.cv.toFixed(1)}%` : '')
}
function clock(m: number): string {
  const [h = 0, min = 0] = (sheet.value?.day.start ?? '').split(':').map(Number)
  const t = h * 60 + min + m
  return `${String(Math.floor(t / 60) % 24).padStart(2, '0')}:${String(t % 60).padStart(2, '0')}`
}
const trialChosen = computed(() => {
  const r = rows.value[here.value.row]
  const c = columns.value[here.value.column]
  return r && c ? `${r.golfer.name} ${c.side} trial ${c.trial}`.replace('  ', ' ') : ''
})
/** Pain of the golfer's trials of this test. */
function painOf(r: Schemas['StationRow']): string {
  return columns.value
    .map((c, j) => ({ c, pain: typings.get(r.golfer.id)?.shown(key(j)).pain ?? 0 }))
    .filter((x) => x.pain > 0)
    .map((x) => `pain ${x.pain} in ${x.c.side} trial ${x.c.trial}`.replace('  ', ' '))
    .join(', ')
}
const juniors = computed(() => rows.value.some((r) => r.golfer.junior))
watch([() => test.value?.id, () => rows.value.length], () => void nextTick(() => focus(0, 0)))
</script>

<template>
  <div class="sheet">
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <template v-if="sheet && test">
      <div class="row spread">
        <h1>{{ station?.name }}</h1>
        <div class="row">
          <router-link :to="{ name: 'day', params: { dayId: props.dayId } }">{{ sheet.day.name }}</router-link>
          <select
            aria-label="Station"
            :value="props.station"
            @change="
              router.push({
                name: 'station',
                params: { dayId: props.dayId, station: ($event.target as HTMLSelectElement).value },
              })
            "
          >
            <option v-for="(s, i) in sheet.day.stations" :key="s.name" :value="i">{{ s.name }}</option>
          </select>
        </div>
      </div>
      <div class="tabs" role="tablist" aria-label="Tests of this station">
        <button
          v-for="t in tests"
          :key="t.id"
          role="tab"
          :aria-selected="t.id === test.id"
          :class="{ on: t.id === test.id }"
          @click="chosen = t.id"
        >
          {{ t.name }}
        </button>
      </div>
      <p class="small">
        {{ test.setup }} <span v-if="test.say" class="say">“{{ test.say }}”</span>
        <span v-if="test.voids?.length" class="quiet"> Does not count: {{ test.voids.join('; ') }}.</span>
      </p>
      <template v-for="r in rows" :key="r.golfer.id">
        <SheetTroubles v-if="typings.get(r.golfer.id)" :typing="typings.get(r.golfer.id)!" :who="r.golfer.name" />
      </template>
      <table ref="table">
        <thead>
          <tr>
            <th scope="col">At</th>
            <th scope="col">Golfer</th>
            <th v-for="c in columns" :key="c.side + c.trial" scope="col" class="num">{{ c.side }} {{ c.trial }}</th>
            <th scope="col">Result {{ howTyped(test, unit) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in rows" :key="r.golfer.id" :class="{ on: i === here.row }">
            <td class="num small quiet">{{ r.start < 0 ? '–' : clock(r.start) }}</td>
            <th scope="row">
              {{ r.golfer.name }}
              <span v-if="locked(r)" class="small attention" :title="r.golfer.clearance">not cleared for effort</span>
            </th>
            <td v-for="(c, j) in columns" :key="c.side + c.trial" class="cell">
              <CellInput
                :data-cell="`${i}:${j}`"
                :value="typings.get(r.golfer.id)?.inCell(key(j)) ?? ''"
                :disabled="locked(r)"
                :aria-label="`${r.golfer.name} ${test.name} ${c.side} trial ${c.trial}`"
                :class="{
                  unlikely: typings.get(r.golfer.id)?.trouble.get(key(j))?.unlikely,
                  wrong:
                    typings.get(r.golfer.id)?.trouble.has(key(j)) &&
                    !typings.get(r.golfer.id)?.trouble.get(key(j))?.unlikely,
                }"
                @focus="here = { row: i, column: j }"
                @keydown="onKey($event, i, j)"
                @commit="commit(i, j, $event)"
              />
            </td>
            <td class="num result">
              <span v-for="side in SIDES[test.sides]" :key="side" :data-testid="`station-result-${i}-${side}`">{{
                result(r, side) ? `${side} ${result(r, side)}` : ''
              }}</span>
              <span v-if="painOf(r)" class="stop small" data-testid="pain">{{ painOf(r) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="small quiet">
        <label class="row"
          ><input v-model="across" type="checkbox" /> Enter goes to the next trial first (otherwise to the next
          golfer)</label
        >
        <kbd>Enter</kbd> next · <kbd>p</kbd> pain · <kbd>s</kbd> stopped · <kbd>k</kbd> skipped · <kbd>Ctrl Z</kbd> undo
        · <kbd>Ctrl Y</kbd> redo. <span v-if="juniors">Juniors are among them: nobody is ranked on this page.</span>
      </p>
      <Teleport defer to="#foot-actions">
        <TrialActions
          :what="trialChosen"
          :disabled="!rows[here.row] || locked(rows[here.row]!)"
          :undo="order.length > 0"
          :redo="undone.length > 0"
          @pain="askPain(here.row, here.column)"
          @stopped="mark(here.row, here.column, { status: 'stopped' })"
          @skip="askSkip(here.row, here.column)"
          @undo="takeBack"
          @redo="bringBack"
        />
      </Teleport>
    </template>
    <p v-else-if="!error" class="quiet">Loading …</p>
    <PainDialog
      v-if="meta"
      :open="pain !== null"
      :regions="meta.regions"
      :stops-at="meta.painStops"
      @save="savePain"
      @close="pain = null"
      @closed="focus(...resume)"
    />
    <SkipDialog :open="skip !== null" @save="saveSkip" @close="skip = null" @closed="focus(...resume)" />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.tabs button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 10px 14px;
  min-height: 44px;
  cursor: pointer;
}
.tabs button.on {
  box-shadow: inset 0 -3px 0 rgb(var(--v-theme-secondary));
  font-weight: 650;
}
.say {
  font-style: italic;
}
table {
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 3px 8px;
}
thead th {
  font-size: 0.8rem;
}
tbody tr {
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
tr.on {
  background: rgb(var(--v-theme-surface-variant));
}
tbody th {
  font-size: 1.1rem;
  font-weight: 600;
  min-width: 190px;
}
.cell {
  padding: 2px;
}
.cell input {
  width: 84px;
  height: 44px;
  text-align: right;
  font: inherit;
  font-size: 1.15rem;
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
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
</style>
