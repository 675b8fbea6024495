<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { choices, playingSides } from '@/parts/choices'

import SpeedField from './SpeedField.vue'
import FormGrid from '@/parts/FormGrid.vue'
import { LateCombobox } from '@/parts/late'
import SelectField from '@/parts/SelectField.vue'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{ wrong: Record<string, string>; speed: 'mph' | 'm/s' }>()
</script>

<template>
  <section>
    <h2>Who</h2>
    <FormGrid>
      <v-text-field v-model="form.profile.name" label="Name" :error-messages="props.wrong['profile.name']" />
      <v-text-field
        v-model="form.profile.birthDate"
        label="Birth date"
        type="date"
        :error-messages="props.wrong['profile.birthDate']"
      />
      <SelectField v-model="form.profile.playingSide" label="Plays from the" :items="playingSides" />
      <SelectField
        v-model="form.profile.writingHand"
        label="Writing hand"
        :items="choices(['', 'not said'], ['right', 'right'], ['left', 'left'])"
      />
      <SelectField
        v-model="form.profile.sex"
        label="Sex, for reference values only"
        :items="choices(['', 'left out'], ['female', 'female'], ['male', 'male'])"
      />
      <v-text-field
        v-model.number="form.profile.trainingMonths"
        label="Months of regular strength training"
        type="number"
        min="0"
        :error-messages="props.wrong['profile.trainingMonths']"
      />
      <v-checkbox
        v-if="form.profile.trainingMonths >= 60"
        v-model="form.profile.advanced"
        label="I confirm: advanced"
      />
      <SpeedField
        v-model="form.profile.goalSpeed"
        label="Goal club speed"
        :unit="props.speed"
        :error="props.wrong['profile.goalSpeed']"
      />
      <v-text-field
        v-model.number="form.profile.driverMassG"
        label="Driver mass (g)"
        type="number"
        min="0"
        :error-messages="props.wrong['profile.driverMassG']"
      />
      <v-text-field v-model="form.profile.goalText" label="Goal in their words" class="wide" />
      <LateCombobox
        v-model="form.profile.groups"
        label="Groups of the squad"
        multiple
        chips
        closable-chips
        class="wide"
        :error-messages="props.wrong['profile.groups']"
      />
      <v-textarea
        v-model="form.profile.notes"
        label="Notes"
        rows="2"
        auto-grow
        maxlength="4000"
        class="wide"
        :error-messages="props.wrong['profile.notes']"
      />
      <LateCombobox
        v-if="form.profile.alsoWritten?.length"
        v-model="form.profile.alsoWritten"
        label="Also written, in files"
        multiple
        chips
        closable-chips
        class="wide"
      />
    </FormGrid>
  </section>
</template>
