<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useMeta, useSession, useSquad } from '@/api/queries'
import { vFirst } from '@/keys/first'
import { useFew } from '@/parts/few'
import FewSearch from '@/parts/FewSearch.vue'
import { spaced } from '@/parts/words'
import RunningOrder from '@/plots/RunningOrder.vue'

import { named } from '../squad/named'
import { planWords, usePlanDay } from './useDays'
import { InTurns } from '@/parts/InTurns'
import SelectField from '@/parts/SelectField.vue'

const router = useRouter()
const { data: meta } = useMeta()
const { data: session } = useSession()
const { data: squad } = useSquad()

const form = ref({ name: '', date: '', start: '09:00', set: '', athletes: named(useRoute().query.golfers) })
watch(session, (s) => (form.value.date ||= s?.today ?? ''), { immediate: true })
// The battery the practice begins with; nothing is asked for until it is known.
watch(meta, (m) => (form.value.set ||= m?.set ?? ''), { immediate: true })
const stations = ref<Schemas['Station'][]>([])
const { data: fromSet } = useQuery({
  queryKey: keys.stations(() => form.value.set),
  queryFn: () => must(api.GET('/stations', { params: { query: { set: form.value.set } } })),
  enabled: () => form.value.set !== '',
})
watch(
  fromSet,
  (s) => {
    if (s) stations.value = structuredClone(JSON.parse(JSON.stringify(s)) as Schemas['Station'][])
  },
  { immediate: true },
)
const names = computed(() => new Map((meta.value?.tests ?? []).map((t) => [t.id, t.name])))
const everybody = computed(() => squad.value?.athletes ?? [])
const few = useFew(
  () => everybody.value,
  () => form.value.athletes,
)
const all = computed({
  get: () => everybody.value.length > 0 && form.value.athletes.length === everybody.value.length,
  set: (yes: boolean) => (form.value.athletes = yes ? everybody.value.map((a) => a.id) : []),
})

const preview = usePlanDay()
const save = usePlanDay()
const body = computed<Schemas['DayRequest']>(() => ({
  ...form.value,
  name: form.value.name.trim(),
  stations: stations.value,
}))
/** Golfers and stations have come: what stands below them stands still. */
const there = ref(false)
watch([squad, fromSet], ([s, f]) => (there.value ||= !!s && !!f), { immediate: true })
const ready = computed(() => form.value.athletes.length > 0 && form.value.date !== '' && stations.value.length > 0)
watchDebounced(
  body,
  (b) => {
    if (ready.value) preview.mutate({ ...b, name: b.name || 'Preview', dry: true })
  },
  { debounce: 350, deep: true, immediate: true },
)
const day = computed(() => (ready.value ? preview.data.value : undefined))

async function store() {
  const d = await save.mutateAsync(body.value).catch(() => undefined)
  if (d) await router.push({ name: 'day', params: { dayId: d.id } })
}
</script>

<template>
  <form class="sheet" @submit.prevent="store">
    <h1>Plan a screen day</h1>
    <div class="row top">
      <InTurns :place="40">
        <v-text-field v-model="form.name" label="Name" placeholder="Autumn screen" maxlength="120" v-first />
        <v-text-field v-model="form.date" label="Day" type="date" />
        <v-text-field v-model="form.start" label="Start" type="time" />
        <SelectField
          v-model="form.set"
          label="Battery"
          :items="(meta?.sets ?? []).map((s) => ({ title: s.name, value: s.id, props: { subtitle: s.note } }))"
        />
      </InTurns>
    </div>
    <div class="columns">
      <fieldset>
        <legend>Golfers</legend>
        <label class="pick"><input v-model="all" type="checkbox" /> <strong>All of them</strong></label>
        <FewSearch v-if="few.many.value" v-model="few.text.value" :more="few.more.value" />
        <label v-for="a in few.shown.value" :key="a.id" class="pick">
          <input v-model="form.athletes" type="checkbox" :value="a.id" /> {{ a.name }}
          <span v-if="a.clearance !== 'clear'" class="small attention">{{ spaced(a.clearance) }}: no effort</span>
        </label>
      </fieldset>
      <fieldset>
        <legend>Stations</legend>
        <div class="wide-table">
          <table v-if="there" class="small">
            <thead>
              <tr>
                <th>Station</th>
                <th>Tests, in order</th>
                <th>Minutes a golfer</th>
                <th>Places</th>
                <th>Tiring</th>
                <th><span class="visually-hidden">Leave out</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(s, i) in stations" :key="s.name">
                <td><input v-model="s.name" :aria-label="`Name of station ${i + 1}`" maxlength="60" /></td>
                <td class="tests">{{ s.tests.map((t) => names.get(t) ?? t).join(', ') }}</td>
                <td>
                  <input
                    v-model.number="s.minutes"
                    type="number"
                    min="1"
                    max="240"
                    :aria-label="`Minutes at ${s.name}`"
                  />
                </td>
                <td>
                  <input v-model.number="s.places" type="number" min="1" max="60" :aria-label="`Places at ${s.name}`" />
                </td>
                <td>
                  <select v-model.number="s.tiring" :aria-label="`How tiring ${s.name} is`">
                    <option :value="0">no</option>
                    <option :value="1">a little</option>
                    <option :value="2">yes</option>
                    <option :value="3">last</option>
                  </select>
                </td>
                <td><v-btn size="small" @click="stations.splice(i, 1)">Leave out</v-btn></td>
              </tr>
            </tbody>
          </table>
        </div>
      </fieldset>
    </div>
    <p v-if="preview.error.value" class="stop" role="alert">{{ preview.error.value.message }}</p>
    <section v-if="day" aria-live="polite">
      <h2>Running order</h2>
      <p data-testid="plan-words">{{ planWords(day) }}</p>
      <RunningOrder :day="day" />
    </section>
    <p v-else-if="there" class="quiet">Choose golfers to see the running order.</p>
    <p v-if="save.error.value" class="stop" role="alert">{{ save.error.value.message }}</p>
    <div v-if="there" class="row">
      <v-btn
        type="submit"
        variant="flat"
        color="action"
        :loading="save.isPending.value"
        :disabled="!ready || !form.name.trim()"
        >Keep this day</v-btn
      >
      <v-btn :to="{ name: 'days' }">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  align-content: start;
}
.top {
  align-items: flex-start;
}
.top > * {
  flex: 1 1 160px;
  max-width: 220px;
}
.columns {
  display: grid;
  grid-template-columns: 260px minmax(0, 1fr);
  gap: 24px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
fieldset {
  min-width: 0;
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 650;
}
.pick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 30px;
}
td,
th {
  text-align: left;
  padding: 2px 10px 2px 0;
  vertical-align: top;
}
.tests {
  max-width: 420px;
}
td input,
td select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 3px 5px;
}
td :is(input, select) {
  min-height: 28px;
}
td input[type='number'] {
  width: 64px;
}
td input:not([type]) {
  width: 120px;
}
</style>
