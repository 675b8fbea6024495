<script setup lang="ts">
import { ref, watch } from 'vue'

import { useAthlete } from '@/api/queries'
import type { KeptGolfer } from '@/offline/answers'

import IntakeForm from './IntakeForm.vue'

/**
 * The intake of a golfer. Without a connection it is not opened: the answers to health questions are kept on no device.
 * One that is open already stays, and what is typed waits.
 */
const props = defineProps<{ id: string }>()
const { data: golfer, error } = useAthlete(() => props.id)
const opened = ref(false)
watch(
  golfer,
  (g) => {
    if (g && !(g as KeptGolfer).withoutAnswers) opened.value = true
  },
  { immediate: true },
)
</script>

<template>
  <IntakeForm v-if="opened" :id="props.id" />
  <div v-else class="sheet">
    <h1 :class="{ 'visually-hidden': !golfer }">Intake</h1>
    <p v-if="golfer" role="status">
      The intake opens again with the connection: answers to health questions are kept on no device.
      <router-link :to="{ name: 'read', params: { id: props.id } }">To the read</router-link>
    </p>
    <p v-else-if="error" class="stop" role="alert">{{ error.message }}</p>
  </div>
</template>
