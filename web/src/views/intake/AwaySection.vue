<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { addDays } from '@/parts/days'
import FactRows from '@/parts/FactRows.vue'

import type { Form } from './useIntake'

/** Days on which nothing can be trained. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
const fresh = (): Schemas['Away'] => ({ from: props.today, to: props.today, why: '' })
/** How long an injury or illness is taken to last whose end nobody knows. */
const UNKNOWN_DAYS = 14
function hurt() {
  form.value.situation.away.push({
    from: addDays(props.today, 1),
    to: addDays(props.today, UNKNOWN_DAYS),
    why: 'hurt or ill, end unknown',
  })
}
</script>

<template>
  <FactRows
    v-model="form.situation.away"
    title="Days away"
    add="Add days away"
    :fresh="fresh"
    :named="(_, i) => `days away ${i + 1}`"
  >
    <template #default="{ row: a, i }">
      <v-text-field v-model="a.from" label="From" type="date" :error-messages="props.wrong[`away[${i}]`]" />
      <v-text-field v-model="a.to" label="To" type="date" />
      <v-text-field v-model="a.why" label="Why" />
      <v-checkbox v-model="a.trains" label="Trains there" />
    </template>
  </FactRows>
  <p class="small">
    <v-btn size="small" variant="outlined" @click="hurt">Hurt or ill from tomorrow…</v-btn>
    <span class="quiet"> Two weeks, until the end is known: what follows is laid anew behind them.</span>
  </p>
</template>
