<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { keys } from '@/api/keys'
import { useForget, useSession } from '@/api/queries'
import { dayAndYear } from '@/parts/days'
import { lateDialog } from '@/parts/late'
import { toShown } from '@/parts/speed'
import EmptyState from '@/parts/EmptyState.vue'
import { useTurns } from '@/parts/turns'
import SeriesPlot from '@/plots/SeriesPlot.vue'

import SpeedRail from './SpeedRail.vue'
import SwingEntry from './SwingEntry.vue'
import SwingTable from './SwingTable.vue'
import type { Typed } from './typed'
import { useRadar } from './useRadar'
import { type Making, useSeries } from './useSeries'
import { type Page, type Series, type Swing, useSeriesEdits, useSpeedPage } from './useSpeed'

const ColdStartDialog = lateDialog(() => import('./ColdStartDialog.vue'))
const FileDialog = lateDialog(() => import('./FileDialog.vue'))
const TrialDialog = lateDialog(() => import('./TrialDialog.vue'))
const ImplementsDialog = lateDialog(() => import('./ImplementsDialog.vue'))

type Key = Pick<Swing, 'implement' | 'side' | 'intent' | 'drill'>
const props = defineProps<{ id: string }>()
const client = useQueryClient()
const forget = useForget()
const { data: session } = useSession()
const unit = computed(() => session.value?.units.speed ?? 'mph')
const { data: page, error } = useSpeedPage(() => props.id)
const edits = useSeriesEdits(() => props.id)

/** The page is asked for again a moment after the last swing: the series itself answers at once. */
let later: ReturnType<typeof setTimeout> | undefined
const series = useSeries(props.id, (s) => {
  clearTimeout(later)
  later = setTimeout(() => {
    void client.invalidateQueries({ queryKey: keys.speed(props.id) })
    void client.invalidateQueries({ queryKey: keys.athlete(props.id) })
    if (s.kind === 'cold-start') void forget(props.id)
  }, 700)
})
const { begun, server, swings, last, refused } = series

const making = ref<Making>({ implement: 'driver', side: 'playing', intent: 'full', set: 1, drill: '' })
watch(
  () => page.value?.own.id,
  (own) => {
    if (own && making.value.implement === 'driver') making.value = { ...making.value, implement: own }
  },
  { immediate: true },
)
// The newest series of today goes on where it was left; of another day it is looked at.
watch(
  page,
  (p: Page | undefined) => {
    const newest = p?.series[0]
    if (!begun.value && newest) open(newest)
  },
  { immediate: true },
)
const today = computed(() => page.value?.series.find((s) => s.id === begun.value?.id)?.date)
function open(s: Series) {
  series.goOn(s)
  making.value = { ...making.value, set: Math.max(1, ...s.swings.map((x) => x.set)) }
}
const impossible = ref('')
const radar = useRadar(
  (clubMps, seen) => {
    impossible.value = ''
    addOne(clubMps, { atS: Math.round((Date.now() - startedAt()) / 10) / 100, ...seen })
  },
  (mps) => {
    impossible.value = `The radar said ${toShown(mps, unit.value).toFixed(1)} ${unit.value}: no club moves so. It was left out.`
  },
)
let began = 0
function startedAt() {
  if (began === 0) began = Date.now()
  return began
}
function addOne(clubMps: number, seen: Partial<Swing> = {}) {
  const cold = begun.value?.kind === 'cold-start'
  series.add(
    cold
      ? { ...making.value, implement: page.value?.own.id ?? 'driver', side: 'playing', intent: 'full', drill: '' }
      : making.value,
    clubMps,
    seen,
  )
}
function add(typed: Typed[]) {
  for (const t of typed) {
    const { clubMps, ...seen } = t
    addOne(clubMps, seen)
  }
}
function voidLast() {
  const s = last.value
  if (s) series.change(s, { void: s.void ? '' : 'slip' })
}
function begin(kind: Series['kind'], before = '', raised = false) {
  series.begin(kind, before, raised)
  began = 0
  making.value = { ...making.value, set: 1, side: 'playing', intent: 'full' }
}

const sameKey = (a: Key, b: Key) =>
  a.implement === b.implement && a.side === b.side && a.intent === b.intent && (a.drill ?? '') === (b.drill ?? '')
const marks = computed(() => new Map(server.value?.swings.map((s, i) => [s.id, server.value?.marks[i] ?? '']) ?? []))
const points = computed(() =>
  swings.value.map((s, i) => ({
    id: s.id,
    value: toShown(s.clubMps, unit.value),
    side: s.side,
    set: s.set,
    counts: !s.void && (s.kept || !marks.value.get(s.id)),
    aside: !last.value || !sameKey(s, last.value),
    name: `Swing ${i + 1}: ${toShown(s.clubMps, unit.value).toFixed(1)} ${unit.value}`,
  })),
)
const ofLast = <T extends Key>(list: T[] | undefined) => list?.find((k) => last.value && sameKey(k, last.value))
const stop = computed(() => ofLast(server.value?.stops))
const summary = computed(() => ofLast(server.value?.summaries))
const cold = computed(() => begun.value?.kind === 'cold-start')
const heading = computed(
  () => ({ 'cold-start': 'Cold start', trial: 'Warm-up trial', training: 'Swings' })[begun.value?.kind ?? 'training'],
)
const attention = computed(
  () => begun.value?.kind === 'training' && (stop.value?.setEnded === true || stop.value?.dayEnded === true),
)
const state = computed(() => {
  if (impossible.value) return impossible.value
  if (radar.state.value === 'lost' || radar.state.value === 'looking') return radar.text.value
  if (cold.value) {
    const n = swings.value.length
    return n === 0
      ? 'Cold start: the first swing.'
      : n < 8
        ? `Cold start: ${n} of 8 to 12.`
        : `Cold start: ${n} swings, enough to read.`
  }
  if (begun.value?.kind === 'trial' && swings.value.length < 5) return `Warm-up trial: ${swings.value.length} of 5.`
  if (begun.value?.kind === 'trial') return 'Five swings: this half is done.'
  if (stop.value?.dayEnded) return 'Enough for today with this one: two sets ended slow.'
  if (stop.value?.setEnded) return 'The set is over: two running below the line.'
  if (stop.value?.below) return 'Below the line once.'
  return radar.state.value === 'live' ? `Listening to ${radar.device.value.toLowerCase()}.` : ''
})
const curve = computed(() => {
  const f = server.value?.cold?.fit
  if (!cold.value || !f) return undefined
  const k = unit.value === 'mph' ? 1 / 0.44704 : 1
  return { ceiling: f.ceilingMps * k, deficit: f.firstDeficitMps * k, tau: f.tauSwings }
})

/** Drawn so far: what can be done, the entry of a swing, the plot of all, their table, what is known beside them. */
const drawn = useTurns(() => (page.value ? 5 : 0))
const chosen = ref('')
const colding = ref(false)
const inventory = ref(false)
const trialling = ref(false)
const filing = ref(false)
function addFile(list: Omit<Swing, 'id'>[]) {
  if (begun.value?.kind !== 'training' || swings.value.length) begin('training')
  for (const { implement, side, intent, set, clubMps, ...seen } of list) {
    series.add({ implement, side, intent, set, drill: '' }, clubMps, seen)
  }
}
function beginTrial(trial: string, felt: number) {
  series.begin('trial', '', false, { trial, felt })
  began = 0
  making.value = { implement: page.value?.own.id ?? 'driver', side: 'playing', intent: 'full', set: 1, drill: '' }
}
const said = ref('')
const gone = ref<Series>()
async function toScreen() {
  if (!server.value) return
  const { filled, left } = await edits.toScreen.mutateAsync(server.value.id)
  said.value = [filled.length ? `In the screen of the day: ${filled.join(', ')}.` : '', ...left]
    .filter(Boolean)
    .join(' ')
}
async function remove() {
  if (!server.value) return
  gone.value = await edits.remove.mutateAsync(server.value.id)
  begin('training')
  begun.value = undefined
  said.value = ''
}
async function bringBack() {
  if (!gone.value) return
  const s = await edits.bringBack.mutateAsync(gone.value)
  gone.value = undefined
  open(s)
}
const show = (mps: number | undefined) => (mps === undefined ? '–' : toShown(mps, unit.value).toFixed(1))
</script>

<template>
  <div class="split">
    <div class="sheet">
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <div class="row spread head">
        <h1>
          {{ heading
          }}<span v-if="today" class="quiet small"
            >&nbsp; {{ dayAndYear(today) }}<template v-if="begun?.before">, after {{ begun.before }}</template></span
          >
        </h1>
        <div class="row">
          <v-btn size="small" @click="begin('training')">New series</v-btn>
          <v-btn size="small" @click="colding = true">Cold start…</v-btn>
          <v-btn size="small" @click="filing = true">From a file…</v-btn>
          <v-btn size="small" @click="trialling = true">Warm-up trial…</v-btn>
          <v-btn v-if="server?.swings.length" size="small" :loading="edits.toScreen.isPending.value" @click="toScreen"
            >Into the screen</v-btn
          >
          <v-btn v-if="server?.swings.length" size="small" @click="remove">Remove</v-btn>
        </div>
      </div>
      <template v-if="page && drawn > 1">
        <p v-if="gone" class="small" role="status">
          The series is removed. <button class="plain link" @click="bringBack">Bring it back</button>
        </p>
        <p v-if="said" class="small" role="status" data-testid="said">{{ said }}</p>
        <p v-if="refused" class="stop small" role="alert">{{ refused }}</p>
        <p v-for="w in server?.warnings ?? []" :key="w" class="attention small" role="status">{{ w }}</p>
        <SwingEntry
          v-model="making"
          :page="page"
          :last="last"
          :unit="unit"
          :state="state"
          :attention="attention"
          :fixed="cold"
          :listening="['live', 'looking', 'lost'].includes(radar.state.value)"
          @add="add"
          @void="voidLast"
          @listen="radar.listen()"
          @stop="radar.stop()"
        />
        <template v-if="swings.length && drawn > 2">
          <SeriesPlot
            class="plot"
            :points="points"
            :best="summary ? toShown(summary.bestMps, unit) : 0"
            :stop="stop?.lineMps ? toShown(stop.lineMps, unit) : 0"
            :curve="curve"
            :unit="unit"
            :chosen="chosen"
            @choose="chosen = $event"
          />
          <p v-if="summary" class="row sums" data-testid="sums">
            <span
              >best three <b class="num">{{ show(summary.best3Mps) }}</b></span
            >
            <span
              >mean <b class="num">{{ show(summary.meanMps) }}</b></span
            >
            <span v-if="summary.cvPct !== undefined"
              >varies by <b class="num">{{ summary.cvPct.toFixed(1) }}%</b></span
            >
            <span v-if="summary.dropOffPct !== undefined"
              >last set <b class="num">{{ summary.dropOffPct.toFixed(1) }}%</b> below the best</span
            >
            <span v-if="summary.smash"
              >ball ÷ club <b class="num">{{ summary.smash.toFixed(2) }}</b></span
            >
            <span v-if="summary.strikeMm"
              >strike <b class="num">{{ summary.strikeMm.toFixed(0) }} mm</b> off the middle</span
            >
            <span v-if="stop?.usualMps"
              >usual <b class="num">{{ show(stop.usualMps) }}</b></span
            >
          </p>
          <SwingTable
            v-if="drawn > 3"
            :swings="swings"
            :series="server"
            :page="page"
            :unit="unit"
            :chosen="chosen"
            @change="series.change"
            @choose="chosen = $event"
          />
        </template>
        <EmptyState
          v-else-if="!swings.length"
          title="No swing yet"
          text="Type the first speed and press Enter, paste a column of them, or listen to the radar. Every swing is kept at once."
        />
      </template>
    </div>
    <SpeedRail
      v-if="page && drawn > 4"
      :page="page"
      :unit="unit"
      :golfer="props.id"
      :shown="begun?.id ?? ''"
      @open="open"
      @inventory="inventory = true"
    />
    <ColdStartDialog v-if="page" v-model="colding" :page="page" @begin="(b, r) => begin('cold-start', b, r)" />
    <FileDialog v-if="page" v-model="filing" :page="page" :unit="unit" @add="addFile" />
    <TrialDialog v-if="page" v-model="trialling" :page="page" :athlete-id="props.id" :unit="unit" @begin="beginTrial" />
    <ImplementsDialog v-if="page" v-model="inventory" :page="page" :athlete-id="props.id" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 10px;
}
.plot {
  margin-top: 12px;
}
.sums {
  gap: 22px;
  margin: 6px 0 12px;
}
.link {
  text-decoration: underline;
}
</style>
