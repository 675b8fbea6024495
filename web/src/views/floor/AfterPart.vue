<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Log, Session } from './log'
import Stepper from '@/parts/Stepper.vue'

/** How it was: effort of the whole session, minutes, a note, and what was left out and why. */
const props = defineProps<{ data: Session; log: Log }>()
const emit = defineEmits<{ how: [how: Log['how']]; end: []; leftOut: [item: string, why: string] }>()

const efforts: [number, string][] = [
  [0, 'Rest'],
  [1, 'Very easy'],
  [2, 'Easy'],
  [3, 'Moderate'],
  [4, 'Somewhat hard'],
  [5, 'Hard'],
  [6, 'Hard'],
  [7, 'Very hard'],
  [8, 'Very hard'],
  [9, 'Nearly all'],
  [10, 'All there was'],
]
const took = computed(() => {
  const from = Date.parse(props.log.begunAt ?? '')
  const m = Math.round((Date.now() - from) / 60_000)
  return m >= 5 && m <= 240 ? m : props.data.budget || 60
})
const minutes = ref<number | undefined>(props.log.how.minutes ?? took.value)
const effort = ref<number | undefined>(props.log.how.effort)
const text = ref(props.log.how.note ?? '')
const how = () => ({
  ...(effort.value === undefined ? {} : { effort: effort.value }),
  ...(minutes.value === undefined ? {} : { minutes: minutes.value }),
  ...(text.value.trim() ? { note: text.value.trim() } : {}),
})
const open = computed(() =>
  props.data.sheet.pieces.filter((p) => {
    const it = props.log.items.find((x) => x.item === p.item)
    return !it || (!it.leftOut && it.sets.filter((s) => s.number > 0 && s.state !== 'skipped').length === 0)
  }),
)
const left = computed(() => props.log.items.filter((i) => i.leftOut))
const nameOf = (item: string) => props.data.sheet.pieces.find((p) => p.item === item)?.name ?? ''
function end() {
  emit('how', how())
  emit('end')
}
const over = computed(() => props.log.state === 'done' || props.log.state === 'stopped')
</script>

<template>
  <section class="after" aria-label="After the session">
    <fieldset class="effort">
      <legend>Effort of all of it</legend>
      <div class="scale">
        <button
          v-for="[n, word] in efforts"
          :key="n"
          type="button"
          class="key num"
          :class="{ on: effort === n }"
          :aria-pressed="effort === n"
          :aria-label="`${n}, ${word}`"
          @click="effort = n"
        >
          {{ n }}
        </button>
      </div>
      <p class="word">{{ effort === undefined ? 'How hard was it, 0 to 10?' : efforts[effort]?.[1] }}</p>
    </fieldset>
    <Stepper v-model="minutes" label="Minutes" unit="min" :step="5" :min="1" :max="360" />
    <v-textarea v-model="text" label="Note" maxlength="500" rows="2" />
    <div v-if="open.length" class="open">
      <h2>Not done</h2>
      <ul>
        <li v-for="p in open" :key="p.item">
          <span>{{ p.name }}</span>
          <span class="whys">
            <button
              v-for="why in ['No time', 'No kit', 'Pain', 'Chosen']"
              :key="why"
              type="button"
              class="key"
              @click="emit('leftOut', p.item, why)"
            >
              {{ why }}
            </button>
          </span>
        </li>
      </ul>
    </div>
    <ul v-if="left.length" class="quiet left">
      <li v-for="i in left" :key="i.item">
        {{ nameOf(i.item) }} left out{{ i.why ? `: ${i.why.toLowerCase()}` : '' }}
      </li>
    </ul>
    <div class="go">
      <v-btn size="x-large" variant="flat" color="action" :disabled="effort === undefined" @click="end">{{
        over ? 'Save' : 'End the session'
      }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.after {
  display: grid;
  gap: 14px;
}
.effort {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
legend {
  font-size: 18px;
  font-weight: 650;
  padding: 0 0 4px;
}
.scale {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 6px;
}
@media (min-width: 620px) {
  .scale {
    grid-template-columns: repeat(11, 1fr);
  }
}
.key {
  font: inherit;
  min-height: 48px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.scale .key {
  font-size: 22px;
  font-weight: 650;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.word {
  margin: 4px 0 0;
  font-size: 18px;
}
.open ul {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
  display: grid;
  gap: 8px;
  font-size: 18px;
}
.whys {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
.whys .key {
  font-size: 18px;
  min-height: 44px;
}
.left {
  margin: 0;
  padding-left: 18px;
}
.go {
  display: grid;
}
</style>
