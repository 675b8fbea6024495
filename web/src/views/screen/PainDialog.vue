<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { spaced } from '@/parts/words'
import ZeroToTen from '@/parts/ZeroToTen.vue'
import SelectField from '@/parts/SelectField.vue'

/** Pain on a trial. From `stopsAt` on, which the core sets, the test is stopped and keeps no value. */
const props = defineProps<{ open: boolean; regions: string[]; stopsAt: number }>()
export interface Pain {
  pain: number
  region: string
  note: string
  tingling?: boolean
}
const emit = defineEmits<{ save: [value: Pain, stops: boolean]; close: []; closed: [] }>()

const pain = ref(0)
/** How often it was opened: each time its first field has the focus. */
const times = ref(0)
const region = ref('')
const note = ref('')
const tingling = ref(false)
const stops = computed(() => pain.value >= props.stopsAt || tingling.value)

watch(
  () => props.open,
  (open) => {
    if (!open) return
    times.value++
    pain.value = 0
    region.value = ''
    note.value = ''
    tingling.value = false
  },
)
</script>

<template>
  <v-dialog :model-value="props.open" max-width="420" @update:model-value="emit('close')" @after-leave="emit('closed')">
    <form class="box" @submit.prevent="emit('save', { pain, region, note, ...(tingling && { tingling }) }, stops)">
      <h2>Pain on this trial</h2>
      <ZeroToTen :key="times" v-model="pain" label="How much, 0 to 10" autofocus />
      <SelectField
        v-model="region"
        label="Where"
        :items="props.regions.filter((r) => r !== 'heart').map((r) => ({ title: spaced(r), value: r }))"
      />
      <v-text-field v-model="note" label="What was felt" />
      <v-checkbox v-model="tingling" label="Tingling or numbness of the arm or hand" />
      <p v-if="tingling" class="stop small">
        It stops the test whatever the pain. What it limits ends with a recorded clearance only.
      </p>
      <p v-else-if="stops" class="stop small">
        {{ props.stopsAt }} and over stops the test. It keeps no value, work that loads the region is left out of the
        plan, and a referral is worth offering.
      </p>
      <p v-else class="small quiet">1 to {{ props.stopsAt - 1 }}: noted; carry on if it does not rise.</p>
      <v-btn type="submit" variant="flat" color="action" :disabled="(pain < 1 && !tingling) || !region">{{
        stops ? 'Stop the test' : 'Note it'
      }}</v-btn>
    </form>
  </v-dialog>
</template>
