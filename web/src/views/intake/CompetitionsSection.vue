<script setup lang="ts">
import { mdiClose, mdiPlus } from '@mdi/js'

import type { Schemas } from '@/api/client'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{ today: string; wrong: Record<string, string> }>()
</script>

<template>
  <section>
    <div class="row spread">
      <h2>Competitions</h2>
      <v-btn
        size="small"
        :prepend-icon="mdiPlus"
        @click="form.competitions.push({ date: props.today, name: 'Match', peak: false })"
        >Add a competition</v-btn
      >
    </div>
    <div v-for="(c, i) in form.competitions" :key="i" class="limit">
      <v-text-field v-model="c.date" label="Date" type="date" :error-messages="props.wrong[`competitions[${i}]`]" />
      <v-text-field v-model="c.name" label="Name" />
      <v-checkbox v-model="c.peak" label="Peak for it" />
      <v-btn :icon="mdiClose" size="small" :aria-label="`Remove ${c.name}`" @click="form.competitions.splice(i, 1)" />
    </div>
  </section>
</template>

<style scoped>
.limit {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px;
  align-items: center;
  margin-top: 10px;
}
</style>
