<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

const props = defineProps<{ at: string; programmeId: string; slots: Schemas['SlotInfo'][] }>()
const emit = defineEmits<{ close: []; edit: [edit: Schemas['Edit']] }>()

const slot = ref<Schemas['Slot']>('main-lift')
const scope = ref<'cell' | 'line'>('line')
const note = ref('')
const exercise = ref('')
const isOpen = computed(() => props.at !== '')
watch(isOpen, () => {
  note.value = ''
  exercise.value = ''
})
watch(slot, () => (exercise.value = ''))

const { data: alternatives, error } = useQuery({
  queryKey: keys.alternatives(
    () => props.programmeId,
    () => props.at,
    slot,
  ),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/alternatives', {
        params: { path: { programmeId: props.programmeId }, query: { at: props.at, slot: slot.value } },
      }),
    ),
  enabled: isOpen,
})
const chosen = computed(() => alternatives.value?.find((a) => a.exercise === exercise.value))
const needsReason = computed(() => !!chosen.value?.rule && !['KIT', 'LEVEL', 'ORDER'].includes(chosen.value.rule))
</script>

<template>
  <v-dialog :model-value="isOpen" max-width="520" @update:model-value="emit('close')">
    <form class="box" @submit.prevent="emit('edit', { kind: 'add', at: props.at, scope, exercise, note })">
      <h2>Add an exercise</h2>
      <v-select
        v-model="slot"
        label="Slot"
        :items="props.slots.filter((s) => s.id !== 'second-lift').map((s) => ({ title: s.name, value: s.id }))"
      />
      <p v-if="error" class="stop">{{ error.message }}</p>
      <v-autocomplete
        v-model="exercise"
        label="Exercise, best first"
        :items="
          alternatives?.map((a) => ({
            title: a.blocked ? `${a.name} — held back: ${a.blocked}` : a.name,
            value: a.exercise,
          })) ?? []
        "
      />
      <v-text-field
        v-model="note"
        :label="needsReason ? 'Reason: needed, a limit holds it back' : 'Reason, if there is one to tell'"
      />
      <label class="small"
        ><input v-model="scope" type="checkbox" true-value="line" false-value="cell" /> from this week on</label
      >
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :disabled="!exercise || (needsReason && !note.trim())"
          >Add</v-btn
        >
        <v-btn @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
