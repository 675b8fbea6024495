<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useAthlete } from '@/api/queries'
import { ageWords } from '@/offline/age'
import { useUpdate } from '@/offline/update'
import { useAwake } from '@/parts/signals'
import TimedRunner from '@/parts/TimedRunner.vue'
import { stepsOf } from '@/views/warmup/steps'

import AfterPart from './AfterPart.vue'
import BeforePart from './BeforePart.vue'
import type { Readiness, Refused } from './floorOutbox'
import { dayAfter, nextOpen } from './log'
import NextDose from './NextDose.vue'
import { useRun } from './useRun'
import WorkPart from './WorkPart.vue'

/** A session on the floor, the whole screen to itself: before, warm-up, work, after. */
const props = defineProps<{ id: string; sessionId: string }>()
const { data: golfer } = useAthlete(props.id)
const router = useRouter()
const update = useUpdate()
const awake = useAwake()
const { data, error, keptAt, log, note, undo, noted, refused, outbox } = useRun(props.id, props.sessionId)

type Part = 'before' | 'warmup' | 'work' | 'after'
const part = ref<Part>('before')
const warming = ref(false)
let placed = false
watch(
  log,
  (l) => {
    if (!l || placed || !data.value) return
    placed = true
    if (l.state === 'done' || l.state === 'stopped') part.value = 'after'
    else if (l.items.length) part.value = nextOpen(data.value.sheet.steps, l) < 0 ? 'after' : 'work'
    else if (l.state === 'running') part.value = data.value.kind === 'home' ? 'work' : 'warmup'
  },
  { immediate: true },
)
onMounted(() => {
  update.busy = true
  void awake.hold()
})
onBeforeUnmount(() => {
  update.busy = false
  awake.release()
})

const parts = computed<{ id: Part; title: string }[]>(() => [
  { id: 'before', title: 'Before' },
  ...(data.value?.kind === 'home' ? [] : [{ id: 'warmup' as const, title: 'Warm-up' }]),
  { id: 'work', title: 'Work' },
  { id: 'after', title: 'After' },
])
/** The day it is trained on: the practice's as the session was loaded, and the days that went by on this device since. */
let loadedOn = Date.now()
watch(
  () => data.value?.today,
  () => (loadedOn = keptAt.value || Date.now()),
  { immediate: true },
)
const day = () => (data.value ? dayAfter(data.value.today, loadedOn, Date.now()) : '')
function begin(easier: boolean) {
  if (!log.value?.begunAt) note('begun', { date: day() })
  if ((log.value?.easier ?? false) !== easier) note('version', { easier })
  part.value = data.value?.kind === 'home' ? 'work' : 'warmup'
}
function answered(a: Readiness) {
  if (JSON.stringify(log.value?.ready ?? {}) !== JSON.stringify(a) || !log.value?.ready) note('ready', a)
}
function end() {
  note('ended', { state: 'done' })
  ended.value = true
}
const ended = ref(false)
const unsent = computed(() => outbox.waiting.value)
const fieldNames: Record<string, string> = { 'value.loadKg': 'load', 'value.reps': 'repetitions' }
const nameOf = (item?: string) => data.value?.sheet.pieces.find((p) => p.item === item)?.name ?? ''
const whereOf = (r: Refused) =>
  [nameOf(r.entry.item), r.entry.number ? `set ${r.entry.number}` : '', fieldNames[r.field] ?? '']
    .filter(Boolean)
    .join(', ')
function sure(r: Refused) {
  outbox.again(r, { ...(r.entry.value as object), sure: true })
}
function back() {
  void router.push({ name: 'floor', params: { id: props.id } })
}
</script>

<template>
  <div class="floor standing">
    <header class="top">
      <button type="button" class="plain back" aria-label="Back to the sessions" @click="back">←</button>
      <div class="who">
        <h1>{{ data?.name ?? '' }}</h1>
        <span class="title">{{ data?.letter ? `${data.letter} · ` : '' }}{{ data?.title }}</span>
      </div>
      <span class="state small" aria-live="polite" data-testid="unsent">{{
        unsent ? `${unsent} not sent yet` : log?.entries ? 'All sent' : ''
      }}</span>
      <v-btn size="small" :disabled="!noted.length" @click="undo">Undo</v-btn>
    </header>
    <nav v-if="data" class="parts" aria-label="Parts of the session">
      <button
        v-for="p in parts"
        :key="p.id"
        type="button"
        :class="{ on: part === p.id }"
        :aria-current="part === p.id ? 'step' : undefined"
        @click="part = p.id"
      >
        {{ p.title }}
      </button>
    </nav>
    <p v-if="keptAt" class="note attention" role="status">No connection: this is as it was {{ ageWords(keptAt) }}.</p>
    <p v-for="s in outbox.said" :key="s" class="note attention" role="status">{{ s }}</p>
    <div v-for="r in refused" :key="r.entry.id" class="note stop refused" role="alert">
      <span
        ><strong>{{ whereOf(r) || 'A note' }}</strong> was not taken: {{ r.text }}</span
      >
      <v-btn v-if="r.ask" size="small" variant="outlined" @click="sure(r)">It is right</v-btn>
      <v-btn size="small" @click="outbox.drop(r)">Drop it</v-btn>
    </div>
    <div v-for="t in log?.twice ?? []" :key="t.entry" class="note attention" role="status">
      {{ nameOf(t.item) || 'The session' }}{{ t.number ? `, set ${t.number}` : '' }} was noted on two devices: “{{
        t.stands
      }}” stands, “{{ t.beside }}” was noted too. Open the set to put it right.
    </div>

    <div v-if="data && log" class="body">
      <p v-if="data.stop" class="stopped" role="alert">{{ data.stop }}</p>
      <p v-if="data.limits.length && part !== 'after'" class="limits small">
        <strong>Limits</strong> {{ data.limits.join(' · ') }}
      </p>
      <BeforePart
        v-if="part === 'before'"
        :athlete-id="props.id"
        :session="props.sessionId"
        :ready="log.ready"
        :easier="log.easier ?? false"
        :begun="!!log.begunAt"
        @answered="answered"
        @start="begin"
        @skip="begin(false)"
      />
      <section v-else-if="part === 'warmup'" class="warm" aria-label="Warm-up">
        <p v-if="data.warmUpWhy" class="quiet">{{ data.warmUpWhy }}</p>
        <ol class="list">
          <li v-for="i in data.warmUp ?? []" :key="i.id">
            <span>{{ i.name }}</span>
            <span class="quiet num">{{ i.dose || `${i.seconds} s` }}</span>
          </li>
        </ol>
        <div class="go">
          <v-btn v-if="data.warmUp?.length" size="x-large" variant="flat" color="primary" @click="warming = true"
            >Start the warm-up</v-btn
          >
          <v-btn size="x-large" variant="flat" color="action" @click="part = 'work'">Warm: to the work</v-btn>
        </div>
        <TimedRunner
          v-model="warming"
          :steps="stepsOf(data.warmUp ?? [], golfer?.profile.playingSide)"
          title="Warm-up"
        />
      </section>
      <WorkPart
        v-else-if="part === 'work'"
        :data="data"
        :log="log"
        @note="note"
        @space="note('space', { clear: true })"
        @over="part = 'after'"
      />
      <template v-else>
        <AfterPart
          :data="data"
          :log="log"
          @how="note('after', $event)"
          @end="end"
          @left-out="(item, why) => note('left-out', { text: why }, item)"
        />
        <NextDose v-if="log.state === 'done' || log.state === 'stopped'" :id="props.id" />
        <v-btn v-if="ended" size="x-large" variant="outlined" block class="back-key" @click="back"
          >Back to the sessions</v-btn
        >
      </template>
    </div>
    <p v-else-if="error" class="note stop" role="alert">{{ error.message }}</p>
    <p v-else class="note quiet">Loading the session…</p>
  </div>
</template>

<style scoped>
.floor {
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
  background: rgb(var(--v-theme-background));
  max-width: 900px;
  width: 100%;
  margin: 0 auto;
}
.top {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 12px;
  min-height: 48px;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.back {
  font-size: 26px;
  min-width: 44px;
  min-height: 44px;
}
.who {
  display: flex;
  flex-direction: column;
  line-height: 1.15;
  flex: 1;
  min-width: 0;
}
.title {
  font-size: 18px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.parts {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.parts button {
  font: inherit;
  font-size: 18px;
  min-height: 44px;
  border: 0;
  background: none;
  color: inherit;
}
.parts .on {
  font-weight: 650;
  box-shadow: inset 0 -3px 0 rgb(var(--v-theme-secondary));
}
.body {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 12px;
}
.note {
  margin: 0;
  padding: 6px 12px;
  font-size: 18px;
}
.refused {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.stopped {
  margin: 0;
  border-left: 4px solid rgb(var(--v-theme-error));
  padding: 6px 12px;
  font-size: 18px;
}
.limits {
  margin: 0;
}
.warm {
  display: flex;
  flex-direction: column;
  gap: 10px;
  flex: 1;
}
.list {
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 18px;
}
.list li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 6px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.go {
  display: grid;
  gap: 8px;
  margin-top: auto;
  position: sticky;
  bottom: 0;
  padding: 8px 0;
  background: rgb(var(--v-theme-background));
}
</style>
