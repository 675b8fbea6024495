<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'

import { useAwake } from '@/parts/signals'

import { roundAt, useClass } from './useClass'

/** The board for the wall: read across the hall. Who is where, what they do, how long still, and where they go next. */
const props = defineProps<{ classId: string }>()
const { view, name, golfer, lost, minutesAt } = useClass(props.classId)
void useAwake().hold()
const at = ref(Date.now())
useIntervalFn(() => (at.value = Date.now()), 500)
const minutes = computed(() => minutesAt(at.value))
const round = computed(() => (view.value && minutes.value >= 0 ? roundAt(view.value, minutes.value) : undefined))
const now = computed(() => round.value?.now ?? round.value?.next ?? view.value?.rounds[0])
const after = computed(() => {
  const i = view.value && now.value ? view.value.rounds.indexOf(now.value) : -1
  return view.value?.rounds[i + 1]
})
const left = computed(() => {
  const s = Math.max(0, Math.ceil((round.value?.left ?? 0) * 60))
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
})
const first = (id: string) => name(id).split(' ')[0]
const stations = computed(() => view.value?.stations.filter((s) => now.value && s.id in now.value.at) ?? [])
const line = (stationId: string, id: string) =>
  view.value?.stations.find((s) => s.id === stationId)?.lines.find((l) => l.golfer === id)
const sets = (stationId: string, id: string) => {
  const l = line(stationId, id)
  return (
    golfer(id)
      ?.log.items.find((x) => x.item === l?.item)
      ?.sets.filter((s) => s.number > 0).length ?? 0
  )
}
const nextOf = (id: string) => {
  const station = Object.entries(after.value?.at ?? {}).find(([, who]) => who.includes(id))?.[0]
  return view.value?.stations.find((s) => s.id === station)?.name ?? 'close'
}
</script>

<template>
  <div class="wall">
    <header>
      <h1>{{ view?.name }}</h1>
      <span v-if="!round?.now && round?.next" class="phase">{{ minutes < 8 ? 'Warm-up' : 'Change' }}</span>
      <span class="clock num">{{ round ? left : view?.start }}</span>
      <span v-if="lost" class="attention">No connection</span>
    </header>
    <div class="stations">
      <section v-for="s in stations" :key="s.id">
        <h2>{{ s.name }}</h2>
        <p v-if="s.text" class="text">{{ s.text }}</p>
        <div v-for="id in now?.at[s.id]" :key="id" class="one">
          <span class="name">{{ first(id) }}</span>
          <template v-if="line(s.id, id)">
            <span class="what">{{ line(s.id, id)?.name }}</span>
            <span class="dose">{{ line(s.id, id)?.doseText }}</span>
            <span class="done num">{{ sets(s.id, id) }}/{{ line(s.id, id)?.sets }}</span>
          </template>
          <span v-if="!view?.games" class="next">then {{ nextOf(id) }}</span>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.wall {
  min-height: 100dvh;
  padding: 2vh 2vw;
  display: flex;
  flex-direction: column;
}
header {
  display: flex;
  align-items: baseline;
  gap: 3vw;
}
h1 {
  font-size: clamp(28px, 3.4vw, 56px);
}
.phase {
  font-size: clamp(24px, 3vw, 48px);
}
.clock {
  font-size: clamp(56px, 8vw, 150px);
  font-weight: 650;
  margin-left: auto;
  line-height: 1;
}
.stations {
  flex: 1;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  gap: 2vw;
  align-content: start;
  margin-top: 1vh;
}
h2 {
  font-size: clamp(24px, 2.6vw, 44px);
  border-bottom: 4px solid rgb(var(--v-theme-secondary));
}
.text {
  font-size: clamp(18px, 1.6vw, 28px);
}
.one {
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 0.8vh 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  font-size: clamp(18px, 1.5vw, 26px);
}
.name {
  font-size: clamp(26px, 2.8vw, 48px);
  font-weight: 650;
}
.done {
  grid-row: 1;
  grid-column: 2;
  font-size: clamp(26px, 2.8vw, 48px);
  font-weight: 650;
}
.what,
.dose,
.next {
  grid-column: 1 / -1;
}
.next {
  opacity: 0.75;
}
</style>
