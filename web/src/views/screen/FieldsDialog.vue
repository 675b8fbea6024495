<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import Stepper from '@/parts/Stepper.vue'

import { type Parts, partsOf, textOf } from './fields'
import type { Test } from './cells'

/** A value of several parts set by fields, for a thumb: the set of a lift, a swing of the ladder. */
const props = defineProps<{ open: boolean; test: Test | undefined; text: string; unit: string }>()
const emit = defineEmits<{ save: [text: string]; close: []; closed: [] }>()

const parts = ref<Parts>({})
watch(
  () => props.open,
  (open) => {
    if (open) parts.value = partsOf(props.text)
  },
)
const lift = computed(() => props.test?.rule === 'one-rm')
const written = computed(() => textOf(parts.value, lift.value))
</script>

<template>
  <v-dialog :model-value="props.open" max-width="460" @update:model-value="emit('close')" @after-leave="emit('closed')">
    <form class="box" :aria-label="props.test?.name" @submit.prevent="emit('save', written)">
      <h2>{{ props.test?.name }}</h2>
      <template v-if="lift">
        <Stepper v-model="parts.first" label="Load" :unit="props.unit" :step="2.5" :max="500" />
        <Stepper v-model="parts.reps" label="Repetitions" :step="1" :min="1" :max="10" />
        <Stepper v-model="parts.second" label="Left in reserve" :step="1" :max="6" />
      </template>
      <template v-else>
        <Stepper v-model="parts.first" label="Speed" :unit="props.unit" :step="1" />
        <Stepper v-model="parts.second" label="Mass of the club" unit="g" :step="5" :min="50" :max="1500" />
      </template>
      <div class="row">
        <v-btn type="submit" size="large" variant="flat" color="action" :disabled="!written">Put it in</v-btn>
        <v-btn size="large" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
