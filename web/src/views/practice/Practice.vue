<script setup lang="ts">
import { mdiPlus, mdiUndo } from '@mdi/js'
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { useMeta, useSession } from '@/api/queries'
import { choices } from '@/parts/choices'
import { longDay } from '@/parts/days'
import { discsOf, discsText } from '@/parts/discs'
import { LateAutocomplete } from '@/parts/late'
import { useTurns } from '@/parts/turns'
import { count } from '@/parts/words'

import PlaceCard from './PlaceCard.vue'
import { useSetup } from './useSetup'
import FormGrid from '@/parts/FormGrid.vue'
import SelectField from '@/parts/SelectField.vue'

const SECTIONS = 5
const { form, wrong, conflict, loadError, before, takeBack, reload } = useSetup()
/** Sections drawn so far, and places: each has the whole list of kit. */
const drawn = useTurns(() => (form.value ? SECTIONS : 0))
const drawnPlaces = useTurns(() => (drawn.value > 3 ? (form.value?.places.length ?? 0) : 0))
const change = (part: Partial<Schemas['Practice']>) => form.value && Object.assign(form.value, part)
const { data: meta } = useMeta()
const { data: session } = useSession()
/** Listing them takes a while: the field that shows them comes later than the page anyway. */
const zones = computed(() => (drawn.value > 1 ? Intl.supportedValuesOf('timeZone') : []))

const quantities: { part: keyof Schemas['Units']; label: string; items: { title: string; value: string }[] }[] = [
  { part: 'speed', label: 'Speeds', items: choices(['mph', 'miles an hour (mph)'], ['m/s', 'metres a second (m/s)']) },
  { part: 'mass', label: 'Bodies, grips and lifts', items: choices(['kg', 'kilograms (kg)'], ['lb', 'pounds (lb)']) },
  { part: 'length', label: 'Heights and reaches', items: choices(['cm', 'centimetres (cm)'], ['in', 'inches (in)']) },
  { part: 'distance', label: 'Throws', items: choices(['m', 'metres (m)'], ['ft', 'feet (ft)']) },
]
const measure = (part: keyof Schemas['Units'], value: string) =>
  form.value && change({ units: { ...form.value.units, [part]: value } as Schemas['Units'] })

const begins = computed(() => [
  { title: 'asked each time', value: '' },
  ...(form.value?.places ?? []).filter((p) => p.name).map((p) => ({ title: p.name, value: p.name })),
])
function setPlace(at: number, place: Schemas['Place']) {
  if (!form.value) return
  const was = form.value.places[at]
  const places = form.value.places.map((p, i) => (i === at ? place : p))
  // The place new golfers begin with keeps being that place when it is called otherwise.
  change({ places, begins: was && form.value.begins === was.name ? place.name : form.value.begins })
}
function removePlace(at: number) {
  if (!form.value) return
  const gone = form.value.places[at]
  change({
    places: form.value.places.filter((_, i) => i !== at),
    begins: gone?.name === form.value.begins ? '' : form.value.begins,
  })
}
function addPlace() {
  if (!form.value) return
  const taken = new Set(form.value.places.map((p) => p.name))
  let name = 'Another place'
  for (let n = 2; taken.has(name); n++) name = `Another place ${n}`
  change({ places: [...form.value.places, { name, kit: [] }] })
}
/** What is wrong with a place, whichever part of it. */
const wrongAt = (at: number) => wrong.value[`places[${at}].name`] ?? wrong.value[`places[${at}].kit`] ?? ''
const wrongDisc = computed(() => Object.entries(wrong.value).find(([path]) => path.startsWith('plates'))?.[1] ?? '')
const sets = computed(() =>
  (meta.value?.sets ?? []).map((s) => ({
    value: s.id,
    title: `${s.name}, ${s.tests.length ? count(s.tests.length, 'test') : 'every test'}`,
  })),
)
</script>

<template>
  <div class="sheet">
    <div class="row spread">
      <h1>The practice</h1>
      <v-btn class="no-print" :prepend-icon="mdiUndo" :disabled="before.length === 0" @click="takeBack">Undo</v-btn>
    </div>
    <p v-if="loadError" class="stop" role="alert">{{ loadError.message }}</p>
    <div v-if="conflict" class="stop row" role="alert">
      {{ conflict }} <v-btn size="small" @click="reload">Show what they saved</v-btn>
    </div>
    <template v-if="form">
      <section>
        <h2>Name and clock</h2>
        <FormGrid>
          <v-text-field
            :model-value="form.name"
            label="Name of the practice or club"
            maxlength="120"
            :error-messages="wrong.name"
            @change="change({ name: ($event.target as HTMLInputElement).value })"
          />
          <LateAutocomplete
            :model-value="form.zone"
            label="Time zone"
            :items="zones"
            :error-messages="wrong.zone"
            @update:model-value="$event && change({ zone: $event })"
          />
        </FormGrid>
        <p v-if="session" class="small quiet">Today is {{ longDay(session.today) }} there.</p>
      </section>
      <section v-if="drawn > 1">
        <h2>Units</h2>
        <FormGrid>
          <SelectField
            v-for="q in quantities"
            :key="q.part"
            :model-value="form.units[q.part]"
            :label="q.label"
            :items="q.items"
            :error-messages="wrong[`units.${q.part}`]"
            @update:model-value="measure(q.part, $event)"
          />
        </FormGrid>
        <p class="small quiet">
          Another unit may be typed at any time: <kbd>140 lb</kbd>, <kbd>6'0"</kbd>. The loads of programmes, bars and
          discs are in kilograms.
        </p>
      </section>
      <section v-if="drawn > 2">
        <h2>A new golfer begins with</h2>
        <FormGrid>
          <SelectField
            :model-value="form.begins"
            label="Kit of"
            :items="begins"
            :error-messages="wrong.begins"
            @update:model-value="change({ begins: $event })"
          />
          <v-text-field
            :model-value="form.barKg || ''"
            label="Empty trap bar (kg)"
            inputmode="decimal"
            placeholder="asked"
            :error-messages="wrong.barKg"
            @change="change({ barKg: Number(($event.target as HTMLInputElement).value.replace(',', '.')) || 0 })"
          />
          <v-text-field
            :model-value="discsText(form.plates)"
            label="Pairs of discs (kg)"
            placeholder="20 10 5 2.5 1.25"
            :error-messages="wrongDisc"
            @change="change({ plates: discsOf(($event.target as HTMLInputElement).value) })"
          />
        </FormGrid>
        <p class="small quiet">Changed for one golfer in Intake. Golfers who are here keep what they have.</p>
      </section>
      <section v-if="drawn > 3">
        <div class="row spread">
          <h2>Places and their kit</h2>
          <v-btn :prepend-icon="mdiPlus" :disabled="form.places.length >= 12" @click="addPlace">A place</v-btn>
        </div>
        <p class="small quiet">One tap each, where a golfer’s kit is asked for.</p>
        <div class="places">
          <PlaceCard
            v-for="(p, i) in form.places.slice(0, drawnPlaces)"
            :key="i"
            :place="p"
            :known="meta?.kit ?? []"
            :wrong="wrongAt(i)"
            @change="setPlace(i, $event)"
            @remove="removePlace(i)"
          />
        </div>
        <p v-if="form.places.length === 0" class="quiet">No places: kit is then asked for piece by piece.</p>
      </section>
      <section v-if="drawn > 4">
        <h2>Batteries</h2>
        <FormGrid>
          <SelectField
            :model-value="form.set"
            label="A screen day begins with"
            :items="sets"
            :error-messages="wrong.set"
            @update:model-value="change({ set: $event })"
          />
        </FormGrid>
        <p class="small">
          Batteries and tests of your own are made in <router-link :to="{ name: 'tests' }">Tests</router-link>.
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
.places {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(340px, 100%), 1fr));
  gap: 12px;
  margin-top: 8px;
}
</style>
