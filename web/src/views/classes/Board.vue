<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'

import { useUpdate } from '@/offline/update'
import { LateDialog } from '@/parts/late'
import { useAwake, useSound } from '@/parts/signals'
import { setWords } from '@/views/floor/log'
import Stepper from '@/parts/Stepper.vue'

import ClassSheet from './ClassSheet.vue'
import { type Line, roundAt, useClass } from './useClass'

/** The board of a class: who is where and what each does; one coach ticks for all. Two devices follow each other. */
const props = defineProps<{ classId: string }>()
const { view, error, lost, golfers, golfer, name, note, outbox, minutesAt, run } = useClass(props.classId)
const update = useUpdate()
const awake = useAwake()
onMounted(() => {
  update.busy = true
  void awake.hold()
})
onBeforeUnmount(() => (update.busy = false))

const began = computed(() => minutes.value >= 0)
const at = ref(Date.now())
const { sound } = useSound()
let last = ''
useIntervalFn(() => {
  at.value = Date.now()
  const r = round.value
  const key = r?.now ? `${r.now.from}` : r?.next ? `next${r.next.from}` : ''
  if (began.value && last && key !== last) sound('end')
  last = key
}, 500)
const minutes = computed(() => minutesAt(at.value))
const round = computed(() => (view.value && minutes.value >= 0 ? roundAt(view.value, minutes.value) : undefined))
const chosen = ref<number>()
const shownRound = computed(() => {
  if (chosen.value !== undefined) return view.value?.rounds[chosen.value]
  return round.value?.now ?? round.value?.next ?? view.value?.rounds[0]
})
const left = computed(() => {
  const s = Math.max(0, Math.ceil((round.value?.left ?? 0) * 60))
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
})
const stations = computed(
  () =>
    view.value?.stations
      .filter((s) => shownRound.value && s.id in shownRound.value.at)
      .map((s) => ({
        ...s,
        lines: s.lines.filter((l) => shownRound.value?.at[s.id]?.includes(l.golfer)),
        who: shownRound.value?.at[s.id] ?? [],
      })) ?? [],
)
const sets = (l: Line) =>
  golfer(l.golfer)
    ?.log.items.find((x) => x.item === l.item)
    ?.sets.filter((s) => s.number > 0) ?? []
const nextSet = (l: Line) => (sets(l).at(-1)?.number ?? 0) + 1

const open = ref<Line>()
const load = ref<number>()
const reps = ref<number>()
function show(l: Line) {
  open.value = open.value?.item === l.item ? undefined : l
  const before = sets(l).at(-1)
  load.value = before?.loadKg
  reps.value = before?.reps
}
function tick(l: Line, value: object) {
  note(l.golfer, 'set', { state: 'done', ...value }, l.item, nextSet(l))
}
function save() {
  const l = open.value
  if (!l) return
  tick(l, {
    ...(load.value === undefined ? {} : { loadKg: load.value }),
    ...(reps.value === undefined ? {} : { reps: reps.value }),
  })
}
function takeBack(l: Line) {
  const before = sets(l).at(-1)
  if (before) note(l.golfer, 'set', null, l.item, before.number)
}
const ending = ref(false)
const efforts = ref<Record<string, number>>({})
function end() {
  for (const g of golfers.value) {
    if (!g.log.begunAt && !view.value?.games) continue
    const effort = efforts.value[g.id]
    note(g.id, 'after', { ...(effort === undefined ? {} : { effort }), minutes: view.value?.minutes ?? 60 })
    note(g.id, 'ended', { state: 'done' })
  }
  ending.value = false
}
const over = computed(() => golfers.value.length > 0 && golfers.value.some((g) => g.log.state === 'done'))
const sheet = ref(false)
const print = () => globalThis.print()
const words: Record<string, string> = { fast: 'Fast', strong: 'Strong', games: 'Game' }
</script>

<template>
  <div class="board standing">
    <header class="top no-print">
      <router-link :to="{ name: 'today' }" class="back" aria-label="Back to today">←</router-link>
      <h1 class="title">{{ view?.name }}</h1>
      <span v-if="round?.now" class="clock num" data-testid="round-left">{{ left }}</span>
      <span v-else-if="round?.next" class="clock num"
        >{{ round.next === view?.rounds[0] ? 'warm-up' : 'change' }} {{ left }}</span
      >
      <v-btn v-if="!began" variant="flat" color="action" @click="run(true)">Start the clock</v-btn>
      <v-btn v-else size="small" @click="run(false)">Stop the clock</v-btn>
      <span class="gap" />
      <span class="small" aria-live="polite" data-testid="unsent">{{
        outbox.waiting.value ? `${outbox.waiting.value} not sent yet` : lost ? 'No connection' : 'All sent'
      }}</span>
      <v-btn size="small" :to="{ name: 'wall', params: { classId: props.classId } }">Wall</v-btn>
      <v-btn size="small" @click="sheet = !sheet">{{ sheet ? 'Board' : 'Sheet' }}</v-btn>
      <v-btn size="small" variant="outlined" @click="ending = true">End the class</v-btn>
    </header>
    <p v-if="error" class="stop pad" role="alert">{{ error }}</p>
    <p v-for="r in outbox.refused" :key="r.entry.id" class="stop pad" role="alert">
      {{ name(r.athleteId) }}: {{ r.text }} <v-btn size="small" @click="outbox.drop(r)">Drop it</v-btn>
    </p>
    <div v-if="view && sheet" class="pad">
      <v-btn class="no-print" variant="outlined" @click="print">Print</v-btn>
      <ClassSheet :view="view" />
    </div>
    <template v-else-if="view">
      <nav class="rounds" aria-label="Rounds">
        <button
          v-for="(r, i) in view.rounds"
          :key="r.from"
          type="button"
          :class="{ on: shownRound === r, now: round?.now === r }"
          :aria-pressed="shownRound === r"
          @click="chosen = i"
        >
          {{ words[r.half] }} {{ view.rounds.filter((x) => x.half === r.half).indexOf(r) + 1 }}
          <span class="small num">{{ r.from }}–{{ r.to }}</span>
        </button>
        <button v-if="chosen !== undefined && began" type="button" @click="chosen = undefined">By the clock</button>
      </nav>
      <p v-for="n in view.notes" :key="n" class="attention pad small">{{ n }}</p>
      <div class="stations">
        <section v-for="s in stations" :key="s.id" class="station" :aria-label="s.name">
          <h2>{{ s.name }}</h2>
          <p class="small quiet">{{ s.text || s.asks.join(' · ') }}</p>
          <p v-if="view.games" class="who">{{ s.who.map(name).join(', ') }}</p>
          <div v-for="l in s.lines" :key="l.item" class="line">
            <button type="button" class="head" @click="show(l)">
              <span class="golfer">{{ name(l.golfer) }}</span>
              <span class="what">{{ l.name }}</span>
              <span class="dose">{{ l.doseText }}{{ l.loadText ? `, ${l.loadText}` : '' }}</span>
              <span v-if="l.caution" class="attention">{{ l.caution }}</span>
            </button>
            <button
              type="button"
              class="tick num"
              :class="{ full: sets(l).length >= l.sets }"
              :aria-label="`Set done: ${name(l.golfer)}, ${l.name}`"
              @click="tick(l, { asPlanned: true })"
            >
              {{ sets(l).length }}/{{ l.sets }}
            </button>
            <div v-if="open?.item === l.item" class="detail">
              <Stepper v-model="load" label="Load" unit="kg" :step="1" :max="400" />
              <Stepper v-model="reps" label="Repetitions" :step="1" :max="200" />
              <div class="row">
                <v-btn variant="flat" color="action" @click="save">Log this set</v-btn>
                <v-btn :disabled="!sets(l).length" @click="takeBack(l)">Take the last back</v-btn>
              </div>
              <p class="small quiet">{{ sets(l).map(setWords).join(' | ') }}</p>
              <p class="small">{{ l.cues.join(' · ') }}</p>
            </div>
          </div>
        </section>
      </div>
      <p v-if="over" class="pad quiet">The class is logged; what is put right now is kept with its history.</p>
    </template>
    <LateDialog v-model="ending" max-width="560" scrollable aria-label="End the class">
      <div class="box">
        <h2>How hard was it?</h2>
        <div v-for="g in golfers" :key="g.id" class="effort">
          <Stepper
            :model-value="efforts[g.id]"
            :label="g.name"
            :step="1"
            :max="10"
            @update:model-value="$event !== undefined && (efforts[g.id] = $event)"
          />
        </div>
        <div class="row">
          <v-btn variant="flat" color="action" @click="end">End the class</v-btn>
          <v-btn @click="ending = false">Go on</v-btn>
        </div>
      </div>
    </LateDialog>
  </div>
</template>

<style scoped>
.board {
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
}
.top {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  padding: 4px 12px;
  min-height: 52px;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.back {
  font-size: 26px;
  text-decoration: none;
  min-width: 44px;
  text-align: center;
  color: inherit !important;
}
.title {
  font-size: 18px;
}
.clock {
  font-size: 30px;
  font-weight: 650;
}
.gap {
  flex: 1;
}
.pad {
  padding: 6px 14px;
  margin: 0;
}
.rounds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 8px 12px;
}
.rounds button {
  font: inherit;
  font-size: 18px;
  min-height: 44px;
  padding: 2px 12px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.rounds .on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.rounds .now {
  box-shadow: inset 0 -4px 0 rgb(var(--v-theme-action));
}
.stations {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(330px, 100%), 1fr));
  gap: 18px;
  padding: 6px 14px 20px;
}
.station h2 {
  font-size: 22px;
  border-bottom: 3px solid rgb(var(--v-theme-secondary));
}
.station p {
  margin: 2px 0 4px;
}
.line {
  display: grid;
  grid-template-columns: 1fr 92px;
  gap: 8px;
  padding: 6px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.head {
  font: inherit;
  text-align: left;
  border: 0;
  background: none;
  color: inherit;
  display: flex;
  flex-direction: column;
  padding: 0;
  font-size: 18px;
}
.golfer {
  font-size: 20px;
  font-weight: 650;
}
.dose {
  font-size: 18px;
}
.tick {
  font: inherit;
  font-size: 30px;
  font-weight: 650;
  min-height: 72px;
  border: 2px solid rgb(var(--v-theme-primary));
  border-radius: 6px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
  touch-action: manipulation;
}
.tick.full {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.detail {
  grid-column: 1 / -1;
  display: grid;
  gap: 8px;
}
</style>
