<script setup lang="ts">
import { vFirst } from '@/keys/first'

/** Which of two changes of one place stands. */
const props = defineProps<{ clash: { since: string[] } | undefined }>()
const emit = defineEmits<{ decide: [mine: boolean] }>()
</script>

<template>
  <v-dialog :model-value="!!props.clash" max-width="460" persistent>
    <form class="box" @submit.prevent="emit('decide', false)">
      <h2>This place was changed meanwhile</h2>
      <ul data-testid="since">
        <li v-for="(d, i) in props.clash?.since" :key="i">{{ d }}</li>
      </ul>
      <p>Your change was not made.</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" v-first>Keep theirs</v-btn>
        <v-btn @click="emit('decide', true)">Make mine all the same</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
