<script setup lang="ts">
import { ref, watch } from 'vue'

import { vFirst } from '@/keys/first'

const props = defineProps<{ open: boolean }>()
/** Closed is when the dialog has let go of the focus. */
const emit = defineEmits<{ save: [reason: string]; close: []; closed: [] }>()

const reason = ref('')
watch(
  () => props.open,
  () => (reason.value = ''),
)
</script>

<template>
  <v-dialog :model-value="props.open" max-width="360" @update:model-value="emit('close')" @after-leave="emit('closed')">
    <form class="box" @submit.prevent="emit('save', reason)">
      <h2>Skipped: why?</h2>
      <v-text-field v-model="reason" label="Reason" v-first />
      <v-btn type="submit" variant="flat" color="action" :disabled="!reason.trim()">Skip this trial</v-btn>
    </form>
  </v-dialog>
</template>
