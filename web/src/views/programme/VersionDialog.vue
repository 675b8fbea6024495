<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { longDay } from '@/parts/days'

import DifferenceList from './DifferenceList.vue'

/** What differs from another version, and withdrawing the one that is shown. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  view: Schemas['ProgrammeView']
  list: Schemas['ProgrammeRow'][]
  busy: boolean
  error?: string | undefined
}>()
const emit = defineEmits<{ withdraw: [why: string] }>()
const others = computed(() => props.list.filter((p) => p.id !== props.view.id))
const from = ref('')
const why = ref('')
/** The version before the one that is shown, or the newest other. */
const nearest = () =>
  (props.view.status === 'draft'
    ? others.value[0]
    : others.value.find((p) => p.version && p.version < props.view.version)) ?? others.value[0]
watch(open, (now) => {
  if (now) from.value = nearest()?.id ?? ''
})
const { data, error } = useQuery({
  queryKey: keys.differences(
    () => props.view.id,
    from,
    () => props.view.revision,
  ),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/differences', {
        params: { path: { programmeId: props.view.id }, query: { from: from.value } },
      }),
    ),
  enabled: () => open.value && from.value !== '',
})
const name = (p: Schemas['ProgrammeRow']) =>
  `${p.status === 'draft' ? 'the draft' : `version ${p.version}${p.status === 'withdrawn' ? ', withdrawn' : ''}`}, from ${longDay(p.startDate)}`
</script>

<template>
  <v-dialog v-model="open" max-width="760" scrollable>
    <div class="box">
      <h2>{{ props.view.status === 'draft' ? 'The draft' : `Version ${props.view.version}` }} beside another</h2>
      <p v-if="props.view.note" class="why">{{ props.view.note }}</p>
      <p v-if="others.length === 0">There is no other version yet.</p>
      <template v-else>
        <label class="row"
          >Differs from
          <select v-model="from">
            <option v-for="p in others" :key="p.id" :value="p.id">{{ name(p) }}</option>
          </select></label
        >
        <DifferenceList :list="data" :error="error?.message" />
      </template>
      <form v-if="props.view.status === 'issued'" class="withdraw" @submit.prevent="emit('withdraw', why)">
        <h3>Withdraw version {{ props.view.version }}</h3>
        <p class="small">
          It stays here to be looked at; nothing is trained by it any more, and its sessions leave the calendar. What it
          took the place of stands again.
        </p>
        <input v-model="why" aria-label="Why it is withdrawn" placeholder="Why it is withdrawn" maxlength="500" />
        <p v-if="props.error" class="stop" role="alert">{{ props.error }}</p>
        <v-btn type="submit" size="small" :disabled="!why.trim()" :loading="props.busy">Withdraw it</v-btn>
      </form>
      <div class="row"><v-btn @click="open = false">Close</v-btn></div>
    </div>
  </v-dialog>
</template>

<style scoped>
select,
input {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
.withdraw {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 14px 0;
}
.withdraw input {
  width: 100%;
}
</style>
