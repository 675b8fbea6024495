<script setup lang="ts">
import { computed, watch } from 'vue'

import { LateDialog } from '@/parts/late'

import { clockWords as clock, useAwake, useSound } from './signals'
import TimeBar from './TimeBar.vue'
import { type TimedStep, useTimer } from './useTimer'

/** Runs timed steps: one at a time in large type, the next one below, by thumb alone. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ steps: TimedStep[]; title: string }>()

const { silent, sound } = useSound()
const awake = useAwake()
const timer = useTimer(() => props.steps, { sound })
const { index, running, done, step, next, left, share, leftInAll } = timer

watch(open, (is) => {
  if (is) {
    timer.start()
    void awake.hold()
  } else {
    timer.stop()
    awake.release()
  }
})
const says = computed(() => (done.value ? 'Done' : (step.value?.name ?? '')))
function key(e: KeyboardEvent) {
  if (e.key === ' ') {
    e.preventDefault()
    if (running.value) timer.pause()
    else timer.resume()
  } else if (e.key === 'ArrowRight') timer.skip()
  else if (e.key === 'ArrowLeft') timer.back()
}
</script>

<template>
  <LateDialog v-model="open" fullscreen :aria-label="props.title">
    <div class="run" tabindex="0" data-testid="runner" @keydown="key">
      <div class="row spread top">
        <span class="small">{{ index + 1 }} of {{ props.steps.length }}, {{ clock(leftInAll) }} to go</span>
        <div class="row">
          <v-btn size="small" :aria-pressed="silent" @click="silent = !silent">{{
            silent ? 'Sound on' : 'Sound off'
          }}</v-btn>
          <v-btn size="small" @click="open = false">Close</v-btn>
        </div>
      </div>
      <div class="middle">
        <p v-if="step?.side && !done" class="side" data-testid="runner-side">{{ step.side }}</p>
        <h1 class="name" aria-live="assertive" data-testid="runner-name">{{ says }}</h1>
        <p v-if="!done" class="dose">
          {{ step?.dose }}<template v-if="step?.count">&nbsp; {{ step.count }}</template>
        </p>
        <p v-if="!done" class="left num" data-testid="runner-left">{{ clock(left) }}</p>
        <TimeBar v-if="!done" class="bar" :share="share" />
        <p v-if="!done && step?.cue" class="cue">{{ step.cue }}</p>
      </div>
      <p class="next" data-testid="runner-next">
        <template v-if="!done && next"
          ><span class="quiet">then</span> {{ next.name
          }}<template v-if="next.side">, {{ next.side }}</template></template
        >
      </p>
      <div class="keys">
        <v-btn size="x-large" @click="timer.back()">Back</v-btn>
        <v-btn v-if="done" size="x-large" variant="flat" color="action" @click="open = false">Close</v-btn>
        <v-btn v-else-if="running" size="x-large" variant="flat" color="action" @click="timer.pause()">Pause</v-btn>
        <v-btn v-else size="x-large" variant="flat" color="action" @click="timer.resume()">Go on</v-btn>
        <v-btn size="x-large" :disabled="done" @click="timer.skip()">Skip</v-btn>
      </div>
    </div>
  </LateDialog>
</template>

<style scoped>
.run {
  background: rgb(var(--v-theme-background));
  color: rgb(var(--v-theme-on-background));
  min-height: 100%;
  display: flex;
  flex-direction: column;
  padding: 12px 16px 16px;
}
.middle {
  flex: 1;
  display: flex;
  flex-direction: column;
  justify-content: center;
  text-align: center;
}
.side {
  font-size: clamp(26px, 5vw, 44px);
  font-weight: 650;
  color: rgb(var(--v-theme-action));
  margin: 0;
}
.name {
  font-size: clamp(30px, 6vw, 60px);
  line-height: 1.1;
}
.dose,
.cue {
  font-size: clamp(18px, 2.4vw, 26px);
  margin: 8px 0 0;
}
.left {
  font-size: clamp(96px, 22vw, 200px);
  font-weight: 650;
  line-height: 1.05;
  margin: 0;
}
.bar {
  max-width: 720px;
  width: 100%;
  margin: 4px auto;
}
.next {
  font-size: clamp(18px, 2.4vw, 24px);
  text-align: center;
  min-height: 34px;
  margin: 8px 0 16px;
}
.keys {
  display: grid;
  grid-template-columns: 1fr 1.4fr 1fr;
  gap: 12px;
  max-width: 720px;
  width: 100%;
  margin: 0 auto;
}
.keys .v-btn {
  min-height: 64px;
  font-size: 18px;
}
</style>
