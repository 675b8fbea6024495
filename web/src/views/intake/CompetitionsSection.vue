<script setup lang="ts">
import type { Schemas } from '@/api/client'
import FactRows from '@/parts/FactRows.vue'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
const fresh = (): Schemas['Competition'] => ({ date: props.today, name: 'Match', peak: false })
function setLast(c: Schemas['Competition'], day: string) {
  if (day) c.last = day
  else delete c.last
}
</script>

<template>
  <FactRows
    v-model="form.competitions"
    title="Competitions"
    add="Add a competition"
    :fresh="fresh"
    :named="(c) => c.name"
  >
    <template #default="{ row: c, i }">
      <v-text-field v-model="c.date" label="Date" type="date" :error-messages="props.wrong[`competitions[${i}]`]" />
      <v-text-field v-model="c.name" class="name" label="Name" />
      <v-text-field
        :model-value="c.last ?? ''"
        label="Last day, of several"
        type="date"
        :error-messages="props.wrong[`competitions[${i}].last`]"
        @update:model-value="setLast(c, $event)"
      />
      <v-checkbox v-model="c.peak" label="Peak for it" />
      <v-checkbox v-model="c.main" label="The main one" />
    </template>
  </FactRows>
</template>
