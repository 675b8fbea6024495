<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { useGolfers, useSession, useSquad } from '@/api/queries'

import { firstGolfer } from './firstGolfer'

/**
 * Leads a new practice to its first printed block, step by step. It leaves for good when it is told to; once a block is
 * issued it is gone with the next visit.
 */
const { data: session } = useSession()
/** How many there may be for somebody to be led. */
const FEW = 4
const { data: heads } = useGolfers('', FEW)
const { data: squad } = useSquad(false, () => (heads.value?.length ?? FEW) < FEW)
const left = useLocalStorage<string[]>('dunnock.guide-left', [])
const steps = computed(() => firstGolfer(squad.value?.athletes ?? []))
const next = computed(() => steps.value.findIndex((s) => !s.done))
const issued = computed(() => steps.value.at(-2)?.done === true)
/** Whether it was on its way here: a practice that works already is not led. */
const begun = ref(false)
watch(
  [squad, issued],
  ([s, is]) => {
    if (s && !is) begun.value = true
  },
  { immediate: true },
)
const shown = computed(
  () =>
    session.value &&
    squad.value &&
    begun.value &&
    squad.value.athletes.length < FEW &&
    !left.value.includes(session.value.id),
)
function leave() {
  if (session.value) left.value = [...left.value, session.value.id]
}
</script>

<template>
  <section v-if="shown" class="guide no-print" aria-label="First golfer">
    <ol>
      <li v-for="(s, i) in steps" :key="s.title" :class="{ done: s.done, next: i === next }">
        <span class="n" aria-hidden="true">{{ s.done ? '✓' : i + 1 }}</span>
        <router-link v-if="i === next" :to="s.to" :aria-description="s.text">{{ s.title }}</router-link>
        <span v-else>{{ s.title }}<span v-if="s.done" class="visually-hidden">, done</span></span>
      </li>
    </ol>
    <p class="small">{{ steps[next]?.text }}</p>
    <v-btn size="small" @click="leave">Leave the guide</v-btn>
  </section>
</template>

<style scoped>
.guide {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 18px;
  padding: 6px 16px;
  background: rgb(var(--v-theme-surface-variant));
}
ol {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.next {
  font-weight: 650;
}
.n {
  font-weight: 650;
}
p {
  flex: 1;
  margin: 0;
}
@media (max-width: 700px) {
  li:not(.next) {
    display: none;
  }
}
</style>
