<script setup lang="ts">
import { clockWords } from '@/parts/signals'
import TimeBar from '@/parts/TimeBar.vue'
import type { useTimer } from '@/parts/useTimer'

/** What a clock runs of a set: the side, the seconds left in huge numbers, and what to do. */
const props = defineProps<{ clock: ReturnType<typeof useTimer> }>()
const emit = defineEmits<{ without: [] }>()
const { step, left, share, running, pause, resume, skip } = props.clock
</script>

<template>
  <div class="timed" data-testid="set-clock">
    <p class="side">{{ step?.side || (step?.rest ? step.name : '') }}</p>
    <p class="huge num">{{ clockWords(left) }}</p>
    <p class="huge-unit">{{ step?.dose }}</p>
    <TimeBar :share="share" />
    <div class="row keys">
      <v-btn size="large" variant="outlined" @click="running ? pause() : resume()">{{
        running ? 'Pause' : 'Go on'
      }}</v-btn>
      <v-btn size="large" variant="outlined" @click="skip()">Skip ahead</v-btn>
      <v-btn size="large" variant="outlined" @click="emit('without')">Without the clock</v-btn>
    </div>
  </div>
</template>

<style scoped>
.timed {
  text-align: center;
}
.side {
  font-size: 26px;
  font-weight: 650;
  color: rgb(var(--v-theme-action));
  margin: 0;
  min-height: 1.3em;
}
.keys {
  justify-content: center;
  margin-top: 8px;
}
</style>
