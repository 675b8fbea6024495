<script setup lang="ts">
import FactRows from '@/parts/FactRows.vue'

import type { Form } from './useIntake'

/** Stretches with so many rounds a week: from two on, their days are in season. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
</script>

<template>
  <FactRows
    v-model="form.situation.playing"
    title="Rounds"
    add="Add weeks with rounds"
    :fresh="() => ({ from: props.today, to: props.today, rounds: 2 })"
    :named="(_, i) => `weeks with rounds ${i + 1}`"
  >
    <template #default="{ row: p, i }">
      <v-text-field v-model="p.from" label="Played from" type="date" :error-messages="props.wrong[`playing[${i}]`]" />
      <v-text-field v-model="p.to" label="Played to" type="date" />
      <v-text-field
        v-model.number="p.rounds"
        label="Rounds a week"
        type="number"
        min="1"
        max="7"
        :error-messages="props.wrong[`playing[${i}].rounds`]"
      />
    </template>
  </FactRows>
</template>
