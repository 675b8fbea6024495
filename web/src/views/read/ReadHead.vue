<script setup lang="ts">
import type { Schemas } from '@/api/client'
import LateMenu from '@/parts/LateMenu.vue'

const school = defineModel<string>({ required: true })
const props = defineProps<{
  athleteId: string
  schools: Schemas['SchoolInfo'][]
  /** What a draft would be, where there is something to plan from and none is open. */
  drafts: '' | 'first' | 'next'
}>()
const emit = defineEmits<{ refer: [] }>()
</script>

<template>
  <div class="row spread">
    <h1>What holds club speed back</h1>
    <v-btn
      v-if="props.drafts"
      :variant="props.drafts === 'first' ? 'flat' : 'outlined'"
      :color="props.drafts === 'first' ? 'action' : undefined"
      :to="{ name: 'programme', params: { id: props.athleteId }, query: { draft: '' } }"
      >Draft a programme</v-btn
    >
    <v-btn size="small" @click="emit('refer')">Referral note…</v-btn>
    <LateMenu>
      <template #activator="{ props: menu }"><v-btn size="small" v-bind="menu">Export…</v-btn></template>
      <div class="box">
        <v-btn :href="`/api/v1/athletes/${props.athleteId}/exports/csv`" download>Trials as CSV</v-btn>
        <v-btn :href="`/api/v1/athletes/${props.athleteId}/exports/xlsx`" download>Trials as XLSX</v-btn>
        <v-btn :href="`/api/v1/athletes/${props.athleteId}/exports/fhir`" download>For a clinic: FHIR R4</v-btn>
        <v-btn :href="`/api/v1/athletes/${props.athleteId}/export`" download="golfer.json">Everything as JSON</v-btn>
      </div>
    </LateMenu>
    <div v-if="props.schools.length" class="schools" role="radiogroup" aria-label="School">
      <button
        v-for="s in props.schools"
        :key="s.id"
        role="radio"
        :aria-checked="school === s.id"
        :class="{ on: school === s.id }"
        :title="s.logic"
        @click="school = s.id"
      >
        {{ s.name }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.schools {
  display: flex;
  flex-wrap: wrap;
  border: 1px solid rgb(var(--v-theme-primary));
  border-radius: 3px;
}
.schools button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 5px 12px;
  cursor: pointer;
}
.schools button.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-surface));
}
</style>
