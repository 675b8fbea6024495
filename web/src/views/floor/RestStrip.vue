<script setup lang="ts">
import { clockWords } from '@/parts/signals'
import TimeBar from '@/parts/TimeBar.vue'
import type { useTimer } from '@/parts/useTimer'

/** The rest after a set, as the clock on the wall has it. Ten times a second this alone is drawn. */
const props = defineProps<{ clock: ReturnType<typeof useTimer> }>()
const { left, share, skip } = props.clock
</script>

<template>
  <div class="rest" data-testid="rest">
    <TimeBar :share="share" />
    <span class="num left">Rest {{ clockWords(left) }}</span>
    <v-btn size="large" @click="skip()">Go now</v-btn>
  </div>
</template>

<style scoped>
.rest {
  display: grid;
  grid-template-columns: 1fr auto auto;
  align-items: center;
  gap: 10px;
}
.left {
  font-size: 26px;
  font-weight: 650;
}
</style>
