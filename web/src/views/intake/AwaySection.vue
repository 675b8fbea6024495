<script setup lang="ts">
import FactRows from '@/parts/FactRows.vue'

import type { Form } from './useIntake'

/** Days on which nothing can be trained. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
</script>

<template>
  <FactRows
    v-model="form.situation.away"
    title="Days away"
    add="Add days away"
    :fresh="() => ({ from: props.today, to: props.today, why: '' })"
    :named="(_, i) => `days away ${i + 1}`"
  >
    <template #default="{ row: a, i }">
      <v-text-field v-model="a.from" label="From" type="date" :error-messages="props.wrong[`away[${i}]`]" />
      <v-text-field v-model="a.to" label="To" type="date" />
      <v-text-field v-model="a.why" label="Why" />
    </template>
  </FactRows>
</template>
