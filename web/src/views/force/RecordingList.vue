<script setup lang="ts">
import { computed } from 'vue'

import { longDay } from '@/parts/days'

import type { Recording } from './useForce'

/** A golfer's recordings by day. Swings are ticked into one or two sets to lay them over each other. */
const props = defineProps<{ recordings: Recording[]; shown: string }>()
const first = defineModel<string[]>('first', { required: true })
const second = defineModel<string[]>('second', { required: true })
const emit = defineEmits<{ open: [id: string]; bring: []; live: [] }>()

const days = computed(() => {
  const out: { date: string; rows: Recording[] }[] = []
  for (const r of props.recordings) {
    const last = out.at(-1)
    if (last?.date === r.date) last.rows.push(r)
    else out.push({ date: r.date, rows: [r] })
  }
  return out
})
const kind = (r: Recording) =>
  r.swing ? 'Swing' : r.jump?.kind === 'squat' ? 'Squat jump' : r.jump?.jumpHeightM ? 'Jump' : 'No jump'
const size = (r: Recording) =>
  r.swing
    ? `${r.swing.vertical.peakPerBodyWeight.toFixed(2)} BW`
    : r.jump?.jumpHeightM
      ? `${(100 * r.jump.jumpHeightM).toFixed(1)} cm`
      : '–'
function toggle(set: 'A' | 'B', ids: string[]) {
  const list = set === 'A' ? first : second
  const other = set === 'A' ? second : first
  const all = ids.every((id) => list.value.includes(id))
  list.value = all ? list.value.filter((x) => !ids.includes(x)) : [...new Set([...list.value, ...ids])]
  other.value = other.value.filter((x) => !list.value.includes(x))
}
const swings = (rows: Recording[]) => rows.filter((r) => r.swing).map((r) => r.id)
</script>

<template>
  <nav class="list no-print" aria-label="Recordings">
    <div class="row">
      <v-btn variant="flat" color="action" size="small" @click="emit('bring')">Bring in</v-btn>
      <v-btn size="small" @click="emit('live')">Record live</v-btn>
    </div>
    <section v-for="d in days" :key="d.date">
      <div class="row spread head">
        <h2>{{ longDay(d.date) }}</h2>
        <span v-if="swings(d.rows).length > 1" class="sets small">
          <button
            v-for="set in ['A', 'B'] as const"
            :key="set"
            class="set"
            :title="`All swings of the day into set ${set}`"
            :aria-label="`All swings of ${longDay(d.date)} into set ${set}`"
            :aria-pressed="swings(d.rows).every((x) => (set === 'A' ? first : second).includes(x))"
            @click="toggle(set, swings(d.rows))"
          >
            {{ set }}
          </button>
        </span>
      </div>
      <ul>
        <li v-for="r in d.rows" :key="r.id" :class="{ on: r.id === props.shown }">
          <button class="plain name" :title="r.name" @click="emit('open', r.id)">
            <span>{{ kind(r) }}</span>
            <span class="num">{{ size(r) }}</span>
            <span class="small quiet file">{{ r.name }}</span>
          </button>
          <span v-if="r.swing" class="sets small">
            <button
              v-for="set in ['A', 'B'] as const"
              :key="set"
              class="set"
              :aria-label="`${r.name} into set ${set}`"
              :aria-pressed="(set === 'A' ? first : second).includes(r.id)"
              @click="toggle(set, [r.id])"
            >
              {{ set }}
            </button>
          </span>
        </li>
      </ul>
    </section>
    <p v-if="props.recordings.length" class="small quiet">
      Tick swings into A, and others into B, to lay them over each other.
    </p>
  </nav>
</template>

<style scoped>
.list {
  width: 224px;
  flex: none;
  border-right: 1px solid rgb(var(--v-theme-line));
  padding: 12px 10px 40px 14px;
}
.head {
  margin-top: 14px;
  flex-wrap: nowrap;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 3px 4px;
}
li.on {
  background: rgb(var(--v-theme-band));
}
.name {
  display: grid;
  grid-template-columns: 1fr auto;
  flex: 1;
  min-width: 0;
}
.file {
  grid-column: 1 / 3;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sets {
  display: flex;
  gap: 3px;
}
.set {
  border: 1px solid rgba(var(--v-theme-on-surface), 0.35);
  background: none;
  color: inherit;
  width: 24px;
  height: 24px;
  font: inherit;
  cursor: pointer;
  padding: 0;
}
.set[aria-pressed='true'] {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
@media (max-width: 900px) {
  .list {
    width: auto;
    border-right: 0;
    border-bottom: 1px solid rgb(var(--v-theme-line));
    max-height: 300px;
    overflow-y: auto;
  }
}
</style>
