<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '@/api/client'
import Folded from '@/parts/Folded.vue'
import LateMenu from '@/parts/LateMenu.vue'
import { longDay } from '@/parts/days'
import { paperHere } from '@/parts/words'

import type { DraftFrom } from './useDrafting'

/** Which programme is shown, what it is, and what can be made of it. */
const school = defineModel<string>('school', { required: true })
const props = defineProps<{
  athleteId: string
  list: Schemas['ProgrammeRow'][]
  view: Schemas['ProgrammeView'] | undefined
  schools: Schemas['SchoolInfo'][]
  busy: boolean
}>()
const sheet = (what: string) => `/api/v1/programmes/${props.view?.id}/exports/${what}`
const emit = defineEmits<{
  show: [programmeId: string]
  draft: [from: DraftFrom]
  issue: []
  compare: []
  replace: []
  bringIn: [file: File]
}>()
const file = ref<HTMLInputElement>()
function brought(event: Event) {
  const input = event.target as HTMLInputElement
  const [first] = input.files ?? []
  if (first) emit('bringIn', first)
  input.value = ''
}
const named = (p: { status: string; version: number }) =>
  p.status === 'draft' ? 'Draft' : `Version ${p.version}${p.status === 'withdrawn' ? ', withdrawn' : ''}`
</script>

<template>
  <div class="row spread">
    <div class="row">
      <h1 class="visually-hidden">Programme</h1>
      <select
        v-if="props.list.length"
        :value="props.view?.id"
        aria-label="Version"
        @change="emit('show', ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="p in props.list" :key="p.id" :value="p.id">
          {{ named(p) }}, from {{ longDay(p.startDate) }}
        </option>
      </select>
      <template v-if="props.view">
        <strong data-testid="status">{{
          props.view.status === 'draft' ? 'Draft' : `${named(props.view)}, issued ${longDay(props.view.issuedOn ?? '')}`
        }}</strong>
        <span class="quiet small"
          >{{ props.view.programme.schoolName }} · {{ props.view.programme.blocks[0]?.emphasis }}</span
        >
      </template>
    </div>
    <!-- Once the schools are there, what is pressed does not move under the hand; and what is drafted over is known. -->
    <div v-if="props.schools.length" class="row">
      <select v-model="school" aria-label="School">
        <option v-for="s in props.schools" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
      <v-btn
        :loading="props.busy"
        :disabled="props.list.length > 0 && !props.view"
        variant="outlined"
        @click="emit('draft', { school })"
        >{{ props.view?.status === 'draft' ? 'Draft again' : 'Draft a programme' }}</v-btn
      >
      <Folded>
        <v-btn :to="{ name: 'compare', params: { id: props.athleteId } }">Compare schools</v-btn>
        <LateMenu v-if="props.view">
          <template #activator="{ props: menu }"><v-btn v-bind="menu">Paper and tables…</v-btn></template>
          <div class="box">
            <v-btn :href="sheet('pdf?paper=a4')" download>Whole block, PDF, A4</v-btn>
            <v-btn :href="sheet('pdf?paper=a5')" download>Whole block, PDF, A5</v-btn>
            <v-btn :href="sheet('pdf?paper=letter')" download>Whole block, PDF, letter</v-btn>
            <v-btn
              v-for="w in props.view.programme.blocks[0]?.weeks"
              :key="w.id"
              :href="sheet(`pdf?paper=a4&at=${w.id}`)"
              download
              >Week {{ w.number }}, PDF, A4</v-btn
            >
            <v-btn :href="sheet('csv')" download>Plan as CSV</v-btn>
            <v-btn :href="sheet('xlsx')" download>Plan as XLSX</v-btn>
            <v-btn :href="sheet('json')" download>Plan as JSON, to be read back</v-btn>
            <v-btn @click="file?.click()">Bring in a plan (JSON)…</v-btn>
          </div>
        </LateMenu>
        <v-btn v-if="props.view?.status === 'draft'" @click="emit('replace')">Find and replace…</v-btn>
        <v-btn v-if="props.view && (props.list.length > 1 || props.view.status === 'issued')" @click="emit('compare')"
          >Versions…</v-btn
        >
        <v-btn v-if="props.view && props.view.status !== 'draft'" @click="emit('draft', { from: props.view.id })"
          >Change this version</v-btn
        >
      </Folded>
      <input
        ref="file"
        type="file"
        accept=".json,application/json"
        hidden
        aria-label="A plan as JSON"
        @change="brought"
      />
      <v-btn v-if="props.view?.status === 'draft'" variant="flat" color="action" @click="emit('issue')">Issue…</v-btn>
      <v-btn
        v-else-if="props.view?.status === 'issued'"
        variant="flat"
        color="action"
        :href="sheet(`pdf?paper=${paperHere()}&show=true`)"
        target="_blank"
        >Print the block</v-btn
      >
    </div>
  </div>
  <p v-if="props.view?.madeBy" class="small quiet" data-testid="made-by">{{ props.view.madeBy }}</p>
</template>

<style scoped>
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 5px 6px;
}
@media print {
  select {
    display: none;
  }
}
</style>
