<script setup lang="ts">
import { computed } from 'vue'

import { choices } from '@/parts/choices'
import FactRows from '@/parts/FactRows.vue'
import { spaced } from '@/parts/words'

import AwaySection from './AwaySection.vue'
import type { Form } from './useIntake'
import FormGrid from '@/parts/FormGrid.vue'
import SelectField from '@/parts/SelectField.vue'

/** What else bears on the plan: a lay-off, days away, joints taken as they are, how far an arm goes up. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{ joints: string[]; today: string; wrong: Record<string, string> }>()

const sides = choices(['', 'both or not said'], ['lead', 'lead'], ['trail', 'trail'])
const pinch = computed({
  get: () => (form.value.situation.pinches.length ? (form.value.situation.pinches[0]?.side ?? '') : 'none'),
  set: (side) =>
    (form.value.situation.pinches = side === 'none' ? [] : [{ joint: 'hip' as const, side: side as 'lead' }]),
})
const number = (text: string | number) => (text === '' || Number.isNaN(Number(text)) ? undefined : Number(text))
</script>

<template>
  <section>
    <h2>Since when, and what is taken as it is</h2>
    <FormGrid>
      <v-text-field
        :model-value="form.situation.offWeeks ?? ''"
        label="Weeks since regular training ended"
        type="number"
        min="0"
        :error-messages="props.wrong['offWeeks']"
        @update:model-value="form.situation.offWeeks = number($event)"
      />
      <SelectField
        v-if="form.situation.offWeeks"
        :model-value="form.situation.offWhy ?? ''"
        label="Why it ended"
        :items="
          choices(
            ['', 'not said'],
            ['holiday', 'holiday'],
            ['work', 'work'],
            ['illness', 'illness'],
            ['injury', 'injury'],
          )
        "
        @update:model-value="form.situation.offWhy = $event as 'work'"
      />
      <v-text-field
        :model-value="form.situation.overheadDegrees ?? ''"
        label="Arm goes up without pain (degrees; empty: unknown)"
        type="number"
        min="20"
        max="200"
        :error-messages="props.wrong['overheadDegrees']"
        @update:model-value="form.situation.overheadDegrees = number($event)"
      />
      <SelectField
        v-model="pinch"
        label="Hip that pinches in front or ends hard"
        :items="choices(['none', 'none'], ['lead', 'lead'], ['trail', 'trail'], ['', 'both'])"
      />
    </FormGrid>
  </section>
  <FactRows
    v-model="form.situation.acceptedJoints"
    title="Joints accepted as they are"
    add="Accept a joint"
    :fresh="() => ({ joint: 'hip', side: '' as const, why: 'arthritis' })"
    :named="(j) => `accepted ${spaced(j.joint)}`"
  >
    <template #default="{ row: j, i }">
      <SelectField
        v-model="j.joint"
        label="Joint"
        :items="props.joints.map((x) => ({ title: spaced(x), value: x }))"
        :error-messages="props.wrong[`acceptedJoints[${i}].joint`]"
      />
      <SelectField v-model="j.side" label="Side" :items="sides" />
      <v-text-field v-model="j.why" label="Why" :error-messages="props.wrong[`acceptedJoints[${i}].why`]" />
    </template>
  </FactRows>
  <AwaySection v-model="form" :today="props.today" :wrong="props.wrong" />
</template>
