<script setup lang="ts">
import { computed } from 'vue'

/** A golfer's photo, or the first letters of the name where there is none. */
const props = defineProps<{ golferId: string; name: string; photo?: string | undefined; large?: boolean }>()
const letters = computed(() =>
  props.name
    .split(/\s+/)
    .map((w) => w.charAt(0))
    .slice(0, 2)
    .join('')
    .toUpperCase(),
)
</script>

<template>
  <img
    v-if="props.photo"
    class="face"
    :class="{ large: props.large }"
    :src="`/api/v1/athletes/${props.golferId}/photo?v=${props.photo}`"
    :alt="props.large ? `Photo of ${props.name}` : ''"
    loading="lazy"
  />
  <span v-else class="face letters" :class="{ large: props.large }" aria-hidden="true">{{ letters }}</span>
</template>

<style scoped>
.face {
  width: 36px;
  height: 36px;
  border-radius: 4px;
  object-fit: cover;
  display: inline-grid;
  place-items: center;
}
.letters {
  background: rgb(var(--v-theme-surface-variant));
  font-size: var(--small);
  font-weight: 650;
}
.large {
  width: 96px;
  height: 96px;
}
</style>
