<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import FactRows from '@/parts/FactRows.vue'
import type { Form } from '@/views/intake/useIntake'
import SelectField from '@/parts/SelectField.vue'

/** Days that are shown beside the season and move nothing. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
const kinds = ['class', 'lesson', 'club change', 'conditioning', 'travel'] as const
const fresh = (): Schemas['DayMark'] => ({ date: props.today, kind: 'class' })
const names = kinds.map((k) => ({ value: k, title: k.charAt(0).toUpperCase() + k.slice(1) }))
</script>

<template>
  <FactRows
    v-model="form.situation.marks"
    title="Classes, lessons, club changes, conditioning"
    add="Mark a day"
    :fresh="fresh"
    :named="(m) => `${m.kind} on ${longDay(m.date)}`"
  >
    <template #default="{ row: m, i }">
      <v-text-field v-model="m.date" label="Day" type="date" :error-messages="props.wrong[`marks[${i}].date`]" />
      <SelectField v-model="m.kind" label="What" :items="names" />
      <v-text-field v-model="m.text" label="Note" :error-messages="props.wrong[`marks[${i}].text`]" />
      <v-text-field
        v-model.number="m.minutes"
        label="Minutes"
        type="number"
        min="0"
        max="600"
        :error-messages="props.wrong[`marks[${i}].minutes`]"
      />
    </template>
  </FactRows>
</template>
