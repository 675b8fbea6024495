<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { spaced } from '@/parts/words'

/** Pain on a trial. From `stopsAt` on, which the core sets, the test is stopped and keeps no value. */
const props = defineProps<{ open: boolean; regions: string[]; stopsAt: number }>()
export interface Pain {
  pain: number
  region: string
  note: string
}
const emit = defineEmits<{ save: [value: Pain, stops: boolean]; close: []; closed: [] }>()

const pain = ref(0)
const region = ref('')
const note = ref('')
const stops = computed(() => pain.value >= props.stopsAt)

watch(
  () => props.open,
  (open) => {
    if (!open) return
    pain.value = 0
    region.value = ''
    note.value = ''
  },
)
</script>

<template>
  <v-dialog :model-value="props.open" max-width="420" @update:model-value="emit('close')" @after-leave="emit('closed')">
    <form class="box" @submit.prevent="emit('save', { pain, region, note }, stops)">
      <h2>Pain on this trial</h2>
      <v-text-field v-model.number="pain" label="0 to 10" type="number" min="0" max="10" autofocus />
      <v-select
        v-model="region"
        label="Where"
        :items="props.regions.filter((r) => r !== 'heart').map((r) => ({ title: spaced(r), value: r }))"
      />
      <v-text-field v-model="note" label="What was felt" />
      <p v-if="stops" class="stop small">
        {{ props.stopsAt }} and over stops the test. It keeps no value, work that loads the region is left out of the
        plan, and a referral is worth offering.
      </p>
      <p v-else class="small quiet">1 to {{ props.stopsAt - 1 }}: noted; carry on if it does not rise.</p>
      <v-btn type="submit" variant="flat" color="action" :disabled="pain < 1 || pain > 10 || !region">{{
        stops ? 'Stop the test' : 'Note it'
      }}</v-btn>
    </form>
  </v-dialog>
</template>
