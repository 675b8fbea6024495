<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'

import { useSound } from '@/parts/signals'
import { type TimedStep, useTimer } from '@/parts/useTimer'

import InstrumentSet from './InstrumentSet.vue'
import { type Log, nextOpen, type Pain, type Session, setAt, type SetDone, setWords } from './log'
import PainPicker from './PainPicker.vue'
import RestStrip from './RestStrip.vue'
import SetClock from './SetClock.vue'
import Stepper from '@/parts/Stepper.vue'
import SwingSet from './SwingSet.vue'

/**
 * The session itself, one set at a time: what to do in large type, what was done in one tap, the rest by the clock on
 * the wall. What is done in turns and what a clock runs go on by themselves.
 */
const props = defineProps<{ data: Session; log: Log }>()
const emit = defineEmits<{
  note: [what: string, value: unknown, item: string, number: number]
  space: []
  over: []
}>()

const steps = computed(() => props.data.sheet.steps)
const at = ref(Math.max(0, nextOpen(props.data.sheet.steps, props.log)))
const step = computed(() => steps.value[at.value])
const piece = computed(() => props.data.sheet.pieces.find((p) => p.item === step.value?.item))
const did = computed(() => (step.value ? setAt(props.log, step.value.item, step.value.number) : undefined))
const itemLog = computed(() => props.log.items.find((i) => i.item === step.value?.item))
const swapped = computed(() => piece.value?.instead.find((x) => x.exercise === itemLog.value?.exercise))
const name = computed(() => swapped.value?.name ?? piece.value?.name ?? '')
const after = computed(() => {
  const i = nextOpen(steps.value, props.log, at.value + 1)
  return i >= 0 && i !== at.value ? steps.value[i] : undefined
})
const nameAt = (item: string) => props.data.sheet.pieces.find((p) => p.item === item)?.name ?? ''
const left = computed(() => steps.value.filter((s) => !setAt(props.log, s.item, s.number)).length)

// What is noted of the set: as planned until it is changed.
const load = ref<number>()
const reps = ref<number>()
const seconds = ref<number>()
const reserve = ref<number>()
const gripKg = ref<number>()
const jumpCm = ref<number>()
const swings = ref<NonNullable<SetDone['swings']>>([])
const pain = ref<Pain>()
const panel = ref<'' | 'pain' | 'swap' | 'all' | 'leave'>('')
const bodyweight = computed(() => piece.value?.loadKg === undefined && !piece.value?.finds)

watch(
  [() => step.value?.item, () => step.value?.number, did],
  () => {
    const s = step.value
    const p = piece.value
    if (!s || !p) return
    const have = did.value
    // A level that is being found: what the last set took is where the next begins.
    const before = itemLog.value?.sets.filter((x) => x.number > 0 && x.number < s.number).at(-1)
    load.value = have?.loadKg ?? (s.warmUp ? s.loadKg : (before?.loadKg ?? s.loadKg ?? p.loadKg))
    reps.value = have?.reps ?? s.reps ?? p.reps
    seconds.value = have?.seconds ?? p.seconds
    reserve.value = have?.reserve ?? (s.warmUp ? undefined : p.reserve)
    gripKg.value = have?.gripKg
    jumpCm.value = have?.jumpCm
    swings.value = have?.swings ? [...have.swings] : []
    pain.value = have?.pain ? { ...have.pain } : undefined
    panel.value = ''
  },
  { immediate: true },
)
const asPlanned = computed(() => {
  const s = step.value
  const p = piece.value
  if (!s || !p || p.finds) return false
  const plannedLoad = s.loadKg ?? (s.warmUp ? undefined : p.loadKg)
  return (
    !pain.value &&
    swings.value.length === 0 &&
    load.value === plannedLoad &&
    reps.value === (s.reps ?? p.reps) &&
    seconds.value === p.seconds &&
    (s.warmUp || reserve.value === p.reserve) &&
    gripKg.value === undefined &&
    jumpCm.value === undefined
  )
})
/** The first session finds the level: what it was done with has to be said. */
const missing = computed(() =>
  piece.value?.finds && !step.value?.warmUp && load.value === undefined ? 'Say the load it was done with.' : '',
)

const { silent, sound, ready } = useSound()
onMounted(ready)
const clockSteps = ref<TimedStep[]>([])
const mode = ref<'' | 'rest' | 'set'>('')
const clock = useTimer(() => clockSteps.value, {
  sound(kind) {
    sound(kind)
    if (kind === 'end') void nextTick(ended)
  },
})
/** Whether the set before was run by the clock: then the next one is too. */
let byClock = false

function rest(secs: number) {
  if (secs <= 0) {
    mode.value = ''
    if (byClock && step.value?.timed?.length) runSet()
    return
  }
  clockSteps.value = [{ id: 'rest', name: 'Rest', seconds: secs }]
  mode.value = 'rest'
  clock.start()
}
function runSet() {
  const timed = step.value?.timed
  if (!timed?.length) return
  byClock = true
  clockSteps.value = timed as TimedStep[]
  mode.value = 'set'
  clock.start()
}
function ended() {
  const was = mode.value
  mode.value = ''
  if (was === 'set') tick('done')
  else if (was === 'rest' && byClock && step.value?.timed?.length) runSet()
}
function stopClock() {
  clock.stop()
  mode.value = ''
  byClock = false
}

function value(state: SetDone['state']): SetDone {
  const s = step.value
  if (state === 'skipped') return { state }
  const counts = swings.value.length > 0
  return {
    state,
    ...(asPlanned.value && state === 'done' ? { asPlanned: true } : {}),
    ...(load.value !== undefined && !(bodyweight.value && load.value === 0) ? { loadKg: load.value } : {}),
    ...(piece.value?.seconds !== undefined
      ? seconds.value === undefined
        ? {}
        : { seconds: seconds.value }
      : counts
        ? { reps: swings.value.filter((x) => !x.void).length }
        : reps.value === undefined
          ? {}
          : { reps: reps.value }),
    ...(reserve.value !== undefined && !s?.warmUp ? { reserve: reserve.value } : {}),
    ...(counts ? { swings: swings.value } : {}),
    ...(gripKg.value === undefined ? {} : { gripKg: gripKg.value }),
    ...(jumpCm.value === undefined ? {} : { jumpCm: jumpCm.value }),
    ...(pain.value ? { pain: pain.value } : {}),
  }
}
function tick(state: SetDone['state']) {
  const s = step.value
  if (!s) return
  const again = did.value !== undefined
  emit('note', 'set', value(state), s.item, s.number)
  if (again) {
    panel.value = ''
    return
  }
  const next = nextOpen(steps.value, props.log, at.value + 1, (x) => x === s)
  if (next < 0) {
    stopClock()
    emit('over')
    return
  }
  at.value = next
  rest(state === 'skipped' ? 0 : s.restSeconds)
}
function leaveOut(why: string) {
  const s = step.value
  if (!s) return
  emit('note', 'left-out', { text: why }, s.item, 0)
  stopClock()
  const next = nextOpen(steps.value, props.log, at.value, (x) => x.item === s.item)
  if (next < 0) emit('over')
  else at.value = next
  panel.value = ''
}
function swap(exercise: string) {
  const s = step.value
  if (!s) return
  emit('note', 'swap', { exercise, why: 'on the floor' }, s.item, 0)
  panel.value = ''
}
function go(i: number) {
  stopClock()
  at.value = i
  panel.value = ''
}
const needsSpace = computed(() => piece.value?.fast === true && props.data.sheet.space && !props.log.space)
const sets = computed(() =>
  steps.value.map((s, i) => ({ s, i, name: nameAt(s.item), done: setAt(props.log, s.item, s.number) })),
)
defineExpose({ go })
</script>

<template>
  <section v-if="step && piece" class="work" aria-label="The session">
    <div v-if="needsSpace" class="space" role="alertdialog" aria-label="Space">
      <h2>Look at the space first</h2>
      <ul>
        <li v-for="a in props.data.sheet.space?.asks" :key="a">{{ a }}</li>
      </ul>
      <v-btn size="x-large" variant="flat" color="action" block @click="emit('space')">The space is clear</v-btn>
    </div>
    <template v-else>
      <header class="head">
        <h1 class="name">{{ name }}</h1>
        <p class="count">
          <span>{{ step.count }}</span>
          <span v-if="swapped" class="quiet">instead of {{ piece.name }}</span>
        </p>
      </header>

      <p v-if="piece.forbidden && !swapped" class="stop" role="alert">
        Against a limit in force: {{ piece.forbidden }}.
        {{ piece.instead.length ? 'Swap it, or leave it out.' : 'Leave it out.' }}
      </p>
      <SetClock v-if="mode === 'set'" :clock="clock" @without="stopClock" />
      <template v-else>
        <div v-if="piece.kind !== 'swings' || !swings.length" class="target">
          <p class="huge num" data-testid="floor-big">{{ step.big }}</p>
          <p class="huge-unit">{{ step.unit }}</p>
        </div>
        <p v-if="swapped" class="load">{{ swapped.doseText }}<br />{{ swapped.loadText }}</p>
        <p v-else-if="step.load" class="load">{{ step.load }}</p>
        <p v-if="piece.finds && !step.warmUp" class="finds">
          This session finds the level: begin {{ piece.loadKg ? `at about ${piece.loadKg} kg` : 'light' }}, go up until
          {{ piece.reserve }} are left, and say the load.
        </p>
        <p v-if="piece.cues[0]" class="cue">{{ (swapped?.cues ?? piece.cues).join(' · ') }}</p>

        <SwingSet
          v-if="piece.kind === 'swings'"
          :key="step.item"
          v-model="swings"
          :athlete-id="props.data.athleteId"
          :session="props.data.session"
          :piece="piece"
          :step="step"
          :title="props.data.title"
        />
        <div v-else class="steppers">
          <Stepper
            v-if="!bodyweight"
            v-model="load"
            label="Load"
            unit="kg"
            :step="piece.stepKg"
            :max="400"
            :planned="piece.loadKg"
          />
          <Stepper v-if="piece.seconds !== undefined" v-model="seconds" label="Held" unit="s" :step="5" :max="1800" />
          <Stepper v-else v-model="reps" label="Repetitions" :step="1" :max="200" />
          <Stepper
            v-if="piece.reserve !== undefined && !step.warmUp"
            v-model="reserve"
            label="Left in reserve"
            :step="1"
            :max="10"
          />
          <InstrumentSet v-if="piece.kind === 'grip'" v-model="gripKg" kind="grip" :athlete-id="props.data.athleteId" />
          <InstrumentSet
            v-if="piece.kind === 'jumps'"
            v-model="jumpCm"
            kind="jump"
            :athlete-id="props.data.athleteId"
          />
        </div>
      </template>

      <div v-if="panel === 'pain'" class="panel">
        <PainPicker :model-value="pain ?? { region: 'lumbar-spine', level: 2 }" @update:model-value="pain = $event" />
        <div class="row">
          <v-btn size="large" variant="flat" color="action" @click="tick('stopped')">Stop the set</v-btn>
          <v-btn size="large" variant="outlined" @click="tick('done')">Set done, note it</v-btn>
          <v-btn
            size="large"
            @click="
              () => {
                pain = undefined
                panel = ''
              }
            "
            >No pain</v-btn
          >
        </div>
        <p v-if="pain && (pain.level >= 4 || pain.rising || pain.numb)" class="stop">
          Four and over, rising, or numb: stop this exercise. The region is spared from here on.
        </p>
      </div>
      <div v-else-if="panel === 'swap'" class="panel" aria-label="Instead">
        <p v-if="!piece.instead.length" class="quiet">Nothing else fits here with this kit and these limits.</p>
        <button v-for="x in piece.instead" :key="x.exercise" type="button" class="pick" @click="swap(x.exercise)">
          <strong>{{ x.name }}</strong> <span v-if="x.why" class="quiet">{{ x.why }}</span><br />
          <span class="small">{{ x.doseText }}{{ x.loadText ? `, ${x.loadText}` : '' }}</span>
        </button>
        <button v-if="itemLog?.exercise" type="button" class="pick" @click="swap('')">
          <strong>{{ piece.name }}</strong> <span class="quiet">as planned</span>
        </button>
      </div>
      <div v-else-if="panel === 'leave'" class="panel">
        <p>Leave {{ piece.name }} out, because of</p>
        <div class="row">
          <v-btn
            v-for="why in ['No time', 'No kit', 'Pain', 'Chosen']"
            :key="why"
            size="large"
            variant="outlined"
            @click="leaveOut(why)"
            >{{ why.toLowerCase() }}</v-btn
          >
        </div>
      </div>

      <div class="bottom">
        <RestStrip v-if="mode === 'rest'" :clock="clock" />
        <p v-if="missing" class="attention small">{{ missing }}</p>
        <div class="main-keys">
          <v-btn
            v-if="step.timed?.length && mode === '' && !did"
            size="x-large"
            variant="flat"
            color="primary"
            class="big"
            @click="runSet"
            >Start the clock</v-btn
          >
          <v-btn
            v-if="mode !== 'set'"
            size="x-large"
            variant="flat"
            color="action"
            class="big"
            :disabled="missing !== ''"
            data-testid="tick"
            @click="tick('done')"
            >{{ did ? 'Save' : asPlanned ? 'Done as planned' : 'Done' }}</v-btn
          >
        </div>
        <div class="more">
          <button type="button" :class="{ on: panel === 'pain' }" @click="panel = panel === 'pain' ? '' : 'pain'">
            Pain
          </button>
          <button type="button" @click="tick('stopped')">Stopped</button>
          <button type="button" @click="tick('skipped')">Skip</button>
          <button type="button" :class="{ on: panel === 'swap' }" @click="panel = panel === 'swap' ? '' : 'swap'">
            Swap
          </button>
          <button type="button" :class="{ on: panel === 'leave' }" @click="panel = panel === 'leave' ? '' : 'leave'">
            Leave out
          </button>
          <button type="button" :class="{ on: panel === 'all' }" @click="panel = panel === 'all' ? '' : 'all'">
            All sets
          </button>
          <button type="button" :aria-pressed="silent" @click="silent = !silent">
            {{ silent ? 'Sound on' : 'Sound off' }}
          </button>
        </div>
        <p class="then">
          <span class="quiet">then&nbsp;</span>
          <template v-if="after">{{ nameAt(after.item) }}, {{ after.count }}</template>
          <template v-else>how it was</template>
          <span class="quiet num"> · {{ left }} to go</span>
        </p>
      </div>
      <ol v-if="panel === 'all'" class="all" aria-label="All sets">
        <li v-for="x in sets" :key="`${x.s.item}${x.s.number}`">
          <button type="button" :class="{ now: x.i === at }" @click="go(x.i)">
            <span>{{ x.name }}, {{ x.s.count }}</span>
            <span class="quiet">{{ x.done ? setWords(x.done) : `${x.s.big} ${x.s.unit}` }}</span>
          </button>
        </li>
      </ol>
    </template>
  </section>
  <section v-else class="work">
    <p>Everything is noted.</p>
    <v-btn size="x-large" variant="flat" color="action" @click="emit('over')">How it was</v-btn>
  </section>
</template>

<style scoped>
.work {
  display: flex;
  flex-direction: column;
  gap: 8px;
  flex: 1;
}
.name {
  font-size: clamp(24px, 6.4vw, 40px);
  line-height: 1.1;
}
.count {
  font-size: 18px;
  margin: 2px 0 0;
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
}
.target {
  text-align: center;
}
.load {
  font-size: 22px;
  line-height: 1.25;
  text-align: center;
  margin: 0;
}
.finds {
  font-size: 18px;
  border-left: 4px solid rgb(var(--v-theme-secondary));
  padding-left: 10px;
  margin: 0;
}
.cue {
  font-size: 18px;
  text-align: center;
  margin: 0;
}
.steppers {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(154px, 1fr));
  gap: 8px;
}
.bottom {
  margin-top: auto;
  display: grid;
  gap: 6px;
  position: sticky;
  bottom: 0;
  z-index: 2; /* over the labels of fields, which stand above their line */
  background: rgb(var(--v-theme-background));
  padding-top: 6px;
}
.main-keys {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 8px;
}
.big {
  min-height: 68px;
  font-size: clamp(18px, 4.7vw, 21px);
}
.more {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
.more button {
  font: inherit;
  font-size: 18px;
  min-height: 44px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
  touch-action: manipulation;
}
@media (min-width: 700px) {
  .more {
    grid-template-columns: repeat(7, 1fr);
  }
}
.more .on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.then {
  font-size: 18px;
  margin: 0;
  text-align: center;
}
.panel {
  display: grid;
  gap: 8px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  padding: 10px;
}
.pick {
  font: inherit;
  font-size: 18px;
  text-align: left;
  padding: 8px 10px;
  min-height: 52px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.all {
  list-style: none;
  padding: 0;
  margin: 0;
}
.all button {
  width: 100%;
  font: inherit;
  font-size: 18px;
  display: flex;
  justify-content: space-between;
  gap: 10px;
  text-align: left;
  min-height: 44px;
  border: 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  background: none;
  color: inherit;
}
.all .now {
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-action));
  padding-left: 8px;
}
.space {
  margin: auto 0;
  display: grid;
  gap: 14px;
  font-size: 20px;
}
.space h2 {
  font-size: 26px;
}
</style>
