<script setup lang="ts">
import { count } from './words'

/** Looks among many golfers for those to choose from. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ more: number }>()
</script>

<template>
  <div class="few">
    <input v-model="text" type="search" aria-label="Look for a golfer" placeholder="Look for a golfer" />
    <span v-if="props.more" class="small quiet" role="status">and {{ count(props.more, 'other') }}: type a name</span>
  </div>
</template>

<style scoped>
.few {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  margin-bottom: 6px;
}
input {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  padding: 6px 8px;
  min-height: 36px;
}
@media (pointer: coarse) {
  input {
    min-height: 44px;
  }
}
</style>
