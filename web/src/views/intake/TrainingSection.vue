<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { weekdays } from '@/parts/choices'
import { discsOf, discsText } from '@/parts/discs'
import KitPlaces from '@/parts/KitPlaces.vue'
import FormGrid from '@/parts/FormGrid.vue'
import { LateSelect } from '@/parts/late'
import SelectField from '@/parts/SelectField.vue'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{
  schools: Schemas['SchoolInfo'][]
  kit: string[]
  places: Schemas['Place'][]
  wrong: Record<string, string>
}>()

function toggle<T>(list: T[], item: T) {
  const at = list.indexOf(item)
  if (at < 0) list.push(item)
  else list.splice(at, 1)
}

const atHome = computed({
  get: () => form.value.training.kitAt?.home ?? [],
  set: (home) => (form.value.training.kitAt = { ...form.value.training.kitAt, home }),
})

const discs = computed(() => discsText(form.value.training.plates))
function setDiscs(text: string) {
  const kg = discsOf(text)
  if (kg.length) form.value.training.plates = kg
  else delete form.value.training.plates
}

function setShare(text: string | number) {
  const n = Number(text)
  if (text === '' || Number.isNaN(n)) delete form.value.otherSideShare
  else form.value.otherSideShare = Math.round(n)
}
</script>

<template>
  <section>
    <h2>Training</h2>
    <div class="row chips" role="group" aria-label="Days that can be trained on">
      <label v-for="d in weekdays" :key="d.value"
        ><input
          type="checkbox"
          :checked="form.training.days.includes(d.value)"
          @change="toggle(form.training.days, d.value)"
        />
        {{ d.title }}</label
      >
    </div>
    <FormGrid>
      <SelectField
        v-model="form.training.sessions"
        label="Sessions a week"
        :items="[{ title: 'every given day, up to 4', value: 0 }, 1, 2, 3, 4]"
      />
      <v-text-field
        v-model.number="form.training.minutes"
        label="Minutes a session"
        type="number"
        min="0"
        max="150"
        :error-messages="props.wrong['training.minutes']"
      />
      <v-text-field
        v-model="form.training.startsAt"
        label="Sessions start at"
        type="time"
        :error-messages="props.wrong['training.startsAt']"
      />
      <v-text-field
        v-model="form.training.where"
        label="Where sessions are"
        maxlength="120"
        :error-messages="props.wrong['training.where']"
      />
      <v-text-field v-model.number="form.training.barKg" label="Empty trap bar (kg)" type="number" min="0" />
      <v-text-field
        v-model.number="form.training.plateStepKg"
        label="Smallest step on the bar (kg)"
        type="number"
        min="0"
        step="0.5"
      />
      <v-text-field
        :model-value="discs"
        label="Pairs of discs (kg)"
        placeholder="20 10 5 2.5 1.25"
        :error-messages="props.wrong['training.plates']"
        @change="setDiscs(($event.target as HTMLInputElement).value)"
      />
      <SelectField
        v-model="form.school"
        label="School"
        :items="props.schools.map((x) => ({ title: x.name, value: x.id }))"
      />
      <v-text-field v-model="form.startDate" label="Next programme starts (empty: Monday)" type="date" />
      <v-text-field
        :model-value="form.otherSideShare ?? ''"
        label="Swings from the other side, % (empty: the school's)"
        type="number"
        min="0"
        max="100"
        :error-messages="props.wrong['otherSideShare']"
        @update:model-value="setShare"
      />
    </FormGrid>
    <p class="small quiet">Kit at hand, as in a place, then piece by piece:</p>
    <KitPlaces v-model="form.training.kit" :places="props.places" />
    <div class="row chips" role="group" aria-label="Kit at hand">
      <label v-for="k in props.kit" :key="k"
        ><input type="checkbox" :checked="form.training.kit.includes(k)" @change="toggle(form.training.kit, k)" />
        {{ k }}</label
      >
    </div>
    <LateSelect v-model="atHome" label="Kit at home (empty: none is needed)" :items="props.kit" multiple />
  </section>
</template>

<style scoped>
.chips {
  margin: 10px 0;
  gap: 6px 16px;
}
</style>
