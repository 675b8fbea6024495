<script setup lang="ts">
import { ref } from 'vue'

import { dayAndYear } from '@/parts/days'
import AskFirst from '@/parts/AskFirst.vue'
import { choices } from '@/parts/choices'
import { toShown } from '@/parts/speed'

import { type Page, useSeriesEdits } from './useSpeed'
import SelectField from '@/parts/SelectField.vue'

/** Two warm-ups compared: begun, what comes next, and what the pairs say so far. */
type Trial = Page['trials'][number]
type Effect = NonNullable<Trial['speed']>
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ page: Page; athleteId: string; unit: 'mph' | 'm/s' }>()
const emit = defineEmits<{ begin: [trial: string, felt: number] }>()
const { startTrial, removeTrial } = useSeriesEdits(() => props.athleteId)

const a = ref('with the heavy implement')
const b = ref('without it')
const way = ref<'days' | 'halves'>('days')
const felt = ref<number | null>(null)
const problem = ref('')
const asked = ref<Trial>()
async function start() {
  problem.value = ''
  try {
    await startTrial.mutateAsync({ a: a.value, b: b.value, way: way.value })
  } catch (e) {
    problem.value = (e as Error).message
  }
}
function begin(t: Trial) {
  if (felt.value === null) return
  emit('begin', t.id, felt.value)
  felt.value = null
  open.value = false
}
async function remove() {
  if (!asked.value) return
  await removeTrial.mutateAsync(asked.value.id)
  asked.value = undefined
}
const mps = (v: number | undefined) => (v ? toShown(v, props.unit).toFixed(1) : '–')
const scale = props.unit === 'mph' ? 1 / 0.44704 : 1
const yards = props.unit === 'mph' ? 1 / 0.9144 : 1
function words(e: Effect, k: number, u: string) {
  const n = (v: number) => `${v > 0 ? '+' : v < 0 ? '−' : ''}${Math.abs(v * k).toFixed(1)}`
  return e.interval ? `${n(e.mean)} ${u} (${n(e.interval.low)} to ${n(e.interval.high)})` : `${n(e.mean)} ${u}`
}
</script>

<template>
  <v-dialog v-model="open" max-width="720" scrollable>
    <div class="box">
      <h2>Compare two warm-ups</h2>
      <section v-for="t in props.page.trials" :key="t.id" :data-testid="`trial-${t.a}`">
        <div class="row spread">
          <h3>{{ t.a }} against {{ t.b }}</h3>
          <v-btn size="small" @click="asked = t">Remove</v-btn>
        </div>
        <p>
          <b>{{ t.words }}</b>
        </p>
        <table v-if="t.pairs.length">
          <thead>
            <tr>
              <th>Pair</th>
              <th>{{ t.a }}</th>
              <th>felt</th>
              <th>{{ t.b }}</th>
              <th>felt</th>
              <th><span class="visually-hidden">Difference</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in t.pairs" :key="p.number">
              <td class="num">{{ p.number }}</td>
              <td class="num">
                {{ mps(p.a?.mps) }} <span v-if="p.a" class="quiet small">{{ dayAndYear(p.a.on) }}</span>
              </td>
              <td class="num">{{ p.a?.felt }}</td>
              <td class="num">
                {{ mps(p.b?.mps) }} <span v-if="p.b" class="quiet small">{{ dayAndYear(p.b.on) }}</span>
              </td>
              <td class="num">{{ p.b?.felt }}</td>
              <td class="small attention">{{ p.problem }}</td>
            </tr>
          </tbody>
        </table>
        <p class="small">
          <template v-if="t.speed">Speed {{ words(t.speed, scale, props.unit) }}.</template>
          <template v-if="t.strike"> Strike {{ words(t.strike, 1, 'mm off the middle') }}.</template>
          <template v-if="t.carry"> Carry {{ words(t.carry, yards, props.unit === 'mph' ? 'yd' : 'm') }}.</template>
          <template v-if="t.felt"> Felt {{ words(t.felt, 1, 'of ten') }}.</template>
        </p>
        <p>
          Next, pair {{ t.next.pair }}: warm up <b>{{ t.next.name }}</b><template v-if="t.next.wait">
            ({{ t.next.wait }})</template
          >, then five swings with the driver at full intent, same club and place.
        </p>
        <div class="row">
          <v-text-field
            class="felt"
            type="number"
            min="0"
            max="10"
            label="How fast it feels, 0 to 10"
            hide-details
            :model-value="felt ?? ''"
            @update:model-value="
              (v: string) => (felt = v === '' ? null : Math.min(10, Math.max(0, Math.round(Number(v)))))
            "
          />
          <v-btn variant="flat" color="action" :disabled="felt === null || !!t.next.wait" @click="begin(t)"
            >Record its five swings</v-btn
          >
        </div>
      </section>
      <form class="new" @submit.prevent="start">
        <h3>{{ props.page.trials.length ? 'Another comparison' : 'What is compared' }}</h3>
        <div class="form-grid">
          <v-text-field v-model="a" label="One" maxlength="120" />
          <v-text-field v-model="b" label="Against" maxlength="120" />
          <SelectField
            v-model="way"
            :items="
              choices(
                ['days', 'on days of their own, 2 to 14 apart'],
                ['halves', 'halves of one day (heavy implement only)'],
              )
            "
            label="How"
          />
        </div>
        <p class="small quiet">
          The order is drawn. Say what it feels like before the first number is seen: feeling and speed disagree.
        </p>
        <p v-if="problem" class="stop small" role="alert">{{ problem }}</p>
        <div class="row">
          <v-btn type="submit" :disabled="!a.trim() || !b.trim()" :loading="startTrial.isPending.value"
            >Begin the comparison</v-btn
          >
          <v-btn @click="open = false">Close</v-btn>
        </div>
      </form>
      <AskFirst
        :model-value="asked !== undefined"
        title="Remove this comparison?"
        verb="Remove it"
        @update:model-value="(v: boolean) => !v && (asked = undefined)"
        @yes="remove"
      >
        Its series go with it. This cannot be undone.
      </AskFirst>
    </div>
  </v-dialog>
</template>

<style scoped>
section,
.new {
  border-top: 1px solid rgb(var(--v-theme-line));
  padding-top: 10px;
}
.box {
  overflow-y: auto;
  max-height: 88vh;
}
td,
th {
  text-align: left;
  padding: 3px 12px 3px 0;
}
.felt {
  max-width: 230px;
}
</style>
