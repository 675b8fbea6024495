<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

import AddPiece from './AddPiece.vue'
import SelectField from '@/parts/SelectField.vue'

const props = defineProps<{
  at: string
  programmeId: string
  slots: Schemas['SlotInfo'][]
  pieces: Schemas['PieceKit'][]
}>()
const emit = defineEmits<{ close: []; edit: [edit: Schemas['Edit']] }>()

const what = ref<'exercise' | 'piece'>('exercise')
const slot = ref<Schemas['Slot']>('main-lift')
const scope = ref<'cell' | 'line'>('line')
const note = ref('')
const exercise = ref('')
const isOpen = computed(() => props.at !== '')
watch(isOpen, () => {
  note.value = ''
  exercise.value = ''
  what.value = 'exercise'
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
  <v-dialog :model-value="isOpen" max-width="560" scrollable @update:model-value="emit('close')">
    <div class="box">
      <h2>Add to the session</h2>
      <v-btn-toggle v-model="what" mandatory density="compact" aria-label="What to add">
        <v-btn value="exercise">An exercise</v-btn>
        <v-btn value="piece">Swings, drills, grip, lever</v-btn>
      </v-btn-toggle>
      <AddPiece
        v-if="what === 'piece'"
        :at="props.at"
        :pieces="props.pieces"
        @edit="emit('edit', $event)"
        @close="emit('close')"
      />
      <form v-else class="inner" @submit.prevent="emit('edit', { kind: 'add', at: props.at, scope, exercise, note })">
        <SelectField
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
    </div>
  </v-dialog>
</template>

<style scoped>
.inner {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
</style>
