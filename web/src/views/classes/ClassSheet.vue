<script setup lang="ts">
import { computed } from 'vue'

import { longDay } from '@/parts/days'

import type { View } from './useClass'

/** A class on one page: rounds across, stations down, each golfer's own dose; it prints on one sheet. */
const props = defineProps<{ view: View }>()
const name = (id: string) => props.view.golfers.find((g) => g.id === id)?.name ?? ''
const short = (id: string) => {
  const all = props.view.golfers.map((g) => g.name.split(' ')[0])
  const first = name(id).split(' ')[0] ?? ''
  return all.filter((n) => n === first).length > 1 ? name(id) : first
}
const halves = computed(() => [...new Set(props.view.rounds.map((r) => r.half))])
const words: Record<string, string> = { fast: 'Fast half', strong: 'Strong half', games: 'Games' }
</script>

<template>
  <section class="sheet-of" :aria-label="`${props.view.name}, the sheet`">
    <p class="head">
      <strong>{{ props.view.name }}</strong>, {{ longDay(props.view.date) }} {{ props.view.start }} ·
      {{ props.view.minutes }} min: warm-up 8,
      {{ props.view.games ? `games ${props.view.each} each` : `stations ${props.view.each} each, a minute to change` }},
      close
      {{ props.view.games ? 7 : 4 }}
    </p>
    <p v-for="n in props.view.notes" :key="n" class="attention">{{ n }}</p>
    <div v-for="h in halves" :key="h" class="half">
      <h2>{{ words[h] }}</h2>
      <table>
        <thead>
          <tr>
            <th>Station</th>
            <th v-for="r in props.view.rounds.filter((x) => x.half === h)" :key="r.from" class="num">
              {{ r.from }}–{{ r.to }} min
            </th>
            <th>Each does</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in props.view.stations.filter((x) => x.half === h)" :key="s.id">
            <th>
              {{ s.name }}
              <span class="small quiet asks">{{ s.text || s.asks.join('. ') }}</span>
            </th>
            <td v-for="r in props.view.rounds.filter((x) => x.half === h)" :key="r.from">
              {{ props.view.games ? (r.at[s.id] ? 'all' : '') : (r.at[s.id] ?? []).map(short).join(', ') }}
            </td>
            <td class="lines">
              <div v-for="l in s.lines" :key="l.item">
                <strong>{{ short(l.golfer) }}</strong> {{ l.name }}, {{ l.doseText
                }}{{ l.loadText ? `, ${l.loadText}` : '' }}
                <span v-if="l.caution" class="attention small">{{ l.caution }}</span>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small quiet">
      Not medical advice and no substitute for a licensed practitioner; local rules for minors and the hall apply.
    </p>
  </section>
</template>

<style scoped>
.head {
  margin: 0 0 8px;
}
.half {
  margin-bottom: 10px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 4px 8px;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
tbody th {
  width: 180px;
}
.asks {
  display: block;
  font-weight: 400;
}
.lines div {
  padding: 1px 0;
}
@media (max-width: 700px) {
  .sheet-of {
    overflow-x: auto;
  }
}
@media print {
  .sheet-of {
    page: across;
    font-size: 9.5pt;
  }
}
</style>
