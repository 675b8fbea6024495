<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { vFirst } from '@/keys/first'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  athleteId: string
  rules: Schemas['RuleResult'][]
  error?: string | undefined
  busy: boolean
}>()
const emit = defineEmits<{ issue: [note: string]; go: [at: string] }>()

const note = ref('')
function show(at: string) {
  open.value = false
  emit('go', at)
}
const broken = (severity: string) => props.rules.filter((r) => r.status === 'broken' && r.severity === severity)
const blocking = computed(() => broken('blocking'))
const warnings = computed(() => broken('warning'))
const advice = computed(() => broken('advice'))
</script>

<template>
  <v-dialog v-model="open" max-width="560">
    <form class="box" @submit.prevent="emit('issue', note)">
      <h2>Issue this programme</h2>
      <p class="small">An issued version does not change any more. A later change makes a new version.</p>
      <div v-if="blocking.length" class="stop">
        <strong>It cannot be issued:</strong>
        <ul>
          <li v-for="(r, i) in blocking" :key="i">
            {{ r.where ? `${r.where}: ` : '' }}{{ r.text }} {{ r.fix }}
            <router-link v-if="r.rule === 'CLEAR'" :to="{ name: 'intake', params: { id: props.athleteId } }"
              >To the intake</router-link
            >
            <button v-else-if="r.at" type="button" class="plain link" @click="show(r.at)">Show it</button>
          </li>
        </ul>
      </div>
      <div v-if="warnings.length" class="attention">
        <strong>Warnings, say why it goes out with them:</strong>
        <ul>
          <li v-for="(r, i) in warnings" :key="i">{{ r.where ? `${r.where}: ` : '' }}{{ r.text }}</li>
        </ul>
      </div>
      <p v-if="advice.length" class="small quiet">Advice: {{ advice.map((r) => r.text).join(' ') }}</p>
      <v-textarea v-model="note" :label="warnings.length ? 'Reason' : 'Note for this version'" v-first />
      <p v-if="props.error" class="stop" role="alert">{{ props.error }}</p>
      <div class="row">
        <v-btn
          type="submit"
          variant="flat"
          color="action"
          :disabled="blocking.length > 0 || (warnings.length > 0 && !note.trim())"
          :loading="props.busy"
          >Issue</v-btn
        >
        <v-btn @click="open = false">Not yet</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
