<script setup lang="ts">
/** What a trial is: two kinds of jump, or a swing. */
const kind = defineModel<'jump' | 'squat' | 'swing'>({ required: true })
const props = defineProps<{ name: string }>()
const kinds = [
  ['jump', 'Countermovement jump'],
  ['squat', 'Squat jump'],
  ['swing', 'Swing'],
] as const
</script>

<template>
  <label v-for="[k, words] in kinds" :key="k"
    ><input v-model="kind" type="radio" :name="props.name" :value="k" /> {{ words }}</label
  >
</template>
