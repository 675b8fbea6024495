<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import EmptyState from '@/parts/EmptyState.vue'
import { longDay } from '@/parts/days'
import LoadBars, { type Bar } from '@/plots/LoadBars.vue'
import LoadThrough from '@/plots/LoadThrough.vue'

/** How much was done beside what was planned, by week and day. It describes; it promises nothing about injury. */
const props = defineProps<{ id: string }>()
const client = useQueryClient()
const { data, error } = useQuery({
  queryKey: keys.load(props.id),
  queryFn: () => must(api.GET('/athletes/{athleteId}/load', { params: { path: { athleteId: props.id } } })),
})
const { data: settings } = useQuery({
  queryKey: keys.floorSettings(),
  queryFn: () => must(api.GET('/floor/settings')),
})
const save = useMutation({
  mutationFn: (body: Schemas['FloorSettings']) => must(api.PUT('/floor/settings', { body })),
  onSuccess: async (now) => {
    client.setQueryData(keys.floorSettings(), now)
    await client.invalidateQueries({ queryKey: ['load'] })
  },
})

type Kind = 'load' | keyof Schemas['LoadCounts']
const kinds: { id: Kind; title: string; unit: string }[] = [
  { id: 'load', title: 'Effort-minutes', unit: 'effort × minutes' },
  { id: 'minutes', title: 'Minutes', unit: 'min' },
  { id: 'hardSets', title: 'Hard sets', unit: 'sets' },
  { id: 'contacts', title: 'Landings', unit: 'landings' },
  { id: 'throws', title: 'Throws', unit: 'throws' },
  { id: 'fastSwings', title: 'Fast swings', unit: 'swings' },
]
const kind = ref<Kind>('load')
const unit = computed(() => kinds.find((k) => k.id === kind.value)?.unit ?? '')
const value = (w: Schemas['LoadWeek'], of: 'done' | 'planned'): number =>
  kind.value === 'load' ? (of === 'done' ? (w.load ?? 0) : 0) : w[of][kind.value]
const bars = computed<Bar[]>(() => {
  const past = (data.value?.weeks ?? []).map((w) => ({
    start: w.start,
    planned: value(w, 'planned'),
    done: kind.value === 'load' ? w.load : w.done[kind.value],
  }))
  const last = past.at(-1)?.start ?? ''
  const ahead =
    kind.value === 'load'
      ? []
      : (data.value?.toCome ?? [])
          .filter((w) => w.start > last)
          .map((w) => ({ start: w.start, planned: value(w, 'planned'), done: null, ahead: true }))
  return [...past, ...ahead]
})
const weeks = computed(() => [...(data.value?.weeks ?? [])].reverse())
const n = (v: number | null | undefined, digits = 0) => (v == null ? '–' : v.toFixed(digits))
const now = computed(() => {
  const r = data.value?.recent.at(-1)
  const u = data.value?.usual.at(-1)
  if (r == null || u == null || u === 0) return ''
  const share = Math.round((100 * r) / u)
  return share > 110
    ? `Lately more than usual: ${share}% of it.`
    : share < 90
      ? `Lately less than usual: ${share}% of it.`
      : 'Lately about as much as usual.'
})
const titles = { mass: 'Body mass, kg', sleep: 'Hours slept', 'heart-rate': 'Resting heart rate' } as const
/** What a file brought by the day, beside the load. */
const series = computed(() =>
  (Object.keys(titles) as (keyof typeof titles)[])
    .map((kind) => ({
      kind,
      title: titles[kind],
      days: (data.value?.values ?? []).filter((v) => v.kind === kind).map((v) => ({ date: v.date, load: v.value })),
    }))
    .map((s) => ({ ...s, base: s.kind === 'sleep' ? 0 : Math.min(...s.days.map((d) => d.load)) * 0.97 }))
    .filter((s) => s.days.length > 0),
)
function span(which: 'recentDays' | 'usualDays', e: Event) {
  if (settings.value) save.mutate({ ...settings.value, [which]: Number((e.target as HTMLInputElement).value) })
}
</script>

<template>
  <div class="sheet load">
    <div class="row spread">
      <h1>Load</h1>
      <router-link :to="{ name: 'floor', params: { id: props.id } }">Floor</router-link>
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <EmptyState
      v-if="data && !data.weeks.length"
      title="Nothing logged yet"
      text="What is done on the floor adds up here, beside what was planned."
    >
      <v-btn variant="flat" color="action" :to="{ name: 'floor', params: { id: props.id } }">To the floor</v-btn>
    </EmptyState>
    <template v-else-if="data">
      <div class="kinds" role="group" aria-label="What is counted">
        <button
          v-for="k in kinds"
          :key="k.id"
          type="button"
          class="key"
          :class="{ on: kind === k.id }"
          :aria-pressed="kind === k.id"
          @click="kind = k.id"
        >
          {{ k.title }}
        </button>
      </div>
      <LoadBars :bars="bars" :unit="unit" :label="`${unit} by week, planned and done`" />
      <p class="small quiet legend">
        Filled: done. {{ kind === 'load' ? '' : 'Outline: planned, dashed where it is still to come. ' }}A dash: not
        known, as a session of it has no effort or was never noted.
      </p>
      <h2>Day by day</h2>
      <p v-if="now">{{ now }}</p>
      <LoadThrough :days="data.days" :recent="data.recent" :usual="data.usual" />
      <div class="row small">
        <label
          ><span class="mark solid" /> Recent,
          <input
            type="number"
            min="3"
            max="14"
            :value="data.recentDays"
            class="span"
            aria-label="Days that are recent"
            @change="span('recentDays', $event)"
          />
          days</label
        >
        <label
          ><span class="mark dashed" /> Usual,
          <input
            type="number"
            min="14"
            max="56"
            :value="data.usualDays"
            class="span"
            aria-label="Days that are usual"
            @change="span('usualDays', $event)"
          />
          days</label
        >
        <span v-if="save.error.value" class="stop">{{ save.error.value.message }}</span>
      </div>
      <template v-for="s in series" :key="s.kind">
        <h2>{{ s.title }}</h2>
        <LoadThrough :days="s.days" :recent="[]" :usual="[]" :label="s.title" :base="s.base" />
      </template>
      <div class="wide-table" tabindex="0" role="region" aria-label="The weeks">
        <table class="weeks">
          <thead>
            <tr>
              <th>Week of</th>
              <th class="num">Sessions</th>
              <th class="num">Effort-minutes</th>
              <th class="num">Hard sets</th>
              <th class="num">Landings</th>
              <th class="num">Throws</th>
              <th class="num">Fast swings</th>
              <th class="num">Monotony</th>
              <th class="num">Strain</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="w in weeks" :key="w.start">
              <td>{{ longDay(w.start) }}</td>
              <td class="num">{{ w.sessions }}{{ w.missed ? `, ${w.missed} missed` : '' }}</td>
              <td class="num">{{ n(w.load) }}</td>
              <td v-for="k in ['hardSets', 'contacts', 'throws', 'fastSwings'] as const" :key="k" class="num">
                {{ w.done[k] }} <span class="quiet">of {{ w.planned[k] }}</span>
              </td>
              <td class="num">{{ n(w.monotony, 2) }}</td>
              <td class="num">{{ n(w.strain) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small quiet">
        Effort-minutes are effort 0 to 10 times minutes (Foster and others 2001); monotony is a week’s mean over its
        spread, strain the week times that (Foster 1998). Recent and usual are smoothed (Williams and others 2017). They
        describe how much was done and how evenly. None of them says how likely an injury is.
      </p>
    </template>
  </div>
</template>

<style scoped>
.load {
  display: grid;
  gap: 12px;
  align-content: start;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.key {
  font: inherit;
  min-height: 40px;
  padding: 4px 12px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.legend {
  margin: 0;
}
.mark {
  display: inline-block;
  width: 26px;
  border-top: 3px solid rgb(var(--v-theme-primary));
  vertical-align: middle;
}
.mark.dashed {
  border-top: 3px dashed rgb(var(--v-theme-secondary));
}
.span {
  font: inherit;
  width: 56px;
  padding: 2px 4px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  background: transparent;
  color: inherit;
}
.weeks {
  border-collapse: collapse;
  width: 100%;
}
.weeks th,
.weeks td {
  text-align: left;
  padding: 6px 8px;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.weeks .num {
  text-align: right;
}
@media print {
  .sheet {
    page: across;
  }
  .weeks {
    font-size: 8.5pt;
  }
  .weeks th,
  .weeks td {
    padding: 1px 4px;
    white-space: normal;
  }
}
</style>
