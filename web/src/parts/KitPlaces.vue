<script setup lang="ts">
import { kitOfPlaces } from './kit'

/** The kit of a place, said in one tap. */
const kit = defineModel<string[] | undefined>({ required: true })
const props = defineProps<{ known: string[] }>()
</script>

<template>
  <div class="row" role="group" aria-label="Kit of a place">
    <v-btn
      v-for="p in kitOfPlaces(props.known)"
      :key="p.name"
      size="small"
      :variant="kit?.join() === p.kit.join() ? 'flat' : 'outlined'"
      :color="kit?.join() === p.kit.join() ? 'primary' : undefined"
      :aria-pressed="kit?.join() === p.kit.join()"
      @click="kit = [...p.kit]"
      >{{ p.name }}</v-btn
    >
  </div>
</template>
