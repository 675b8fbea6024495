<script setup lang="ts">
import { ref, watch } from 'vue'

const props = defineProps<{ open: boolean; regions: string[] }>()
const emit = defineEmits<{ save: [value: { pain: number; region: string; note: string }]; close: []; closed: [] }>()

const pain = ref(0)
const region = ref('')
const note = ref('')

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
    <form class="box" @submit.prevent="emit('save', { pain, region, note })">
      <h2>Pain on this trial</h2>
      <v-text-field v-model.number="pain" label="0 to 10" type="number" min="0" max="10" autofocus />
      <v-select
        v-model="region"
        label="Where"
        :items="props.regions.filter((r) => r !== 'heart').map((r) => ({ title: r.replaceAll('-', ' '), value: r }))"
      />
      <v-text-field v-model="note" label="What was felt" />
      <p v-if="pain >= 4" class="stop small">
        4 and over stops the test. It keeps no value, work that loads the region is left out of the plan, and a referral
        is worth offering.
      </p>
      <p v-else class="small quiet">1 to 3: noted; carry on if it does not rise.</p>
      <v-btn type="submit" variant="flat" color="action" :disabled="pain < 1 || pain > 10 || !region">{{
        pain >= 4 ? 'Stop the test' : 'Note it'
      }}</v-btn>
    </form>
  </v-dialog>
</template>
