<script setup lang="ts">
import { computed } from 'vue'

import { fromShown, toShown } from '@/parts/speed'

/** A speed kept in m/s and typed in the practice's unit. */
const speed = defineModel<number | undefined>({ required: true })
const props = defineProps<{ label: string; unit: 'mph' | 'm/s'; error?: string | undefined }>()

const shown = computed({
  get: () => (speed.value ? toShown(speed.value, props.unit) : ''),
  set: (text: string | number) => {
    const n = Number(text)
    speed.value = text === '' || Number.isNaN(n) ? 0 : fromShown(n, props.unit)
  },
})
</script>

<template>
  <v-text-field
    v-model.lazy="shown"
    :label="`${props.label} (${props.unit})`"
    type="number"
    min="0"
    step="0.5"
    :error-messages="props.error"
  />
</template>
