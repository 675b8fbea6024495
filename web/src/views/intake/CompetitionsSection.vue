<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FactRows from '@/parts/FactRows.vue'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
</script>

<template>
  <FactRows
    v-model="form.competitions"
    title="Competitions"
    add="Add a competition"
    :fresh="() => ({ date: props.today, name: 'Match', peak: false })"
    :named="(c) => c.name"
  >
    <template #default="{ row: c, i }">
      <v-text-field v-model="c.date" label="Date" type="date" :error-messages="props.wrong[`competitions[${i}]`]" />
      <v-text-field v-model="c.name" label="Name" />
      <v-checkbox v-model="c.peak" label="Peak for it" />
    </template>
  </FactRows>
</template>
