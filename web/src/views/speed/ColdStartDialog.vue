<script setup lang="ts">
import { ref, watch } from 'vue'

import type { Page } from './useSpeed'

/** Before a cold start: may it be made, what came before, and what it asks of the golfer. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ page: Page }>()
const emit = defineEmits<{ begin: [before: string, raised: boolean] }>()
const before = ref('')
const raised = ref(false)
watch(open, (is) => {
  if (!is) return
  before.value = ''
  raised.value = false
})
const came = ['desk', 'work shift', 'drive', 'rest', 'sleep']
function begin() {
  emit('begin', before.value, raised.value)
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="560">
    <div class="box">
      <h2>Cold start</h2>
      <p v-if="props.page.noColdStart" class="stop" role="alert">{{ props.page.noColdStart }}</p>
      <template v-else>
        <p>
          The first 8 to 12 driver swings of the day at full intent,
          {{ props.page.raised ? 'after raise and joints' : 'with no warm-up' }}, at least 20 seconds apart. Not with
          pain or a stiff back; stop at once if anything hurts.
        </p>
        <div class="row">
          <v-btn v-for="c in came" :key="c" :active="before === c" @click="before = c">{{ c }}</v-btn>
        </div>
        <v-text-field v-model="before" label="What came before" maxlength="200" hide-details />
        <v-checkbox v-if="props.page.raised" v-model="raised" label="Raise and joints were done" hide-details />
      </template>
      <div class="row">
        <v-btn
          v-if="!props.page.noColdStart"
          variant="flat"
          color="action"
          :disabled="props.page.raised && !raised"
          @click="begin"
          >Begin the first swing</v-btn
        >
        <v-btn @click="open = false">Not today</v-btn>
      </div>
    </div>
  </v-dialog>
</template>
