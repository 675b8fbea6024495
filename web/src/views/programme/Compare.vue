<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useAthlete, useMeta } from '@/api/queries'
import { capital } from '@/parts/words'
import ZoneBar from '@/plots/ZoneBar.vue'
import { zoneWords } from '@/views/method/useMethod'
import { useTurns } from '@/parts/turns'
import { InTurns } from '@/parts/InTurns'
import SelectField from '@/parts/SelectField.vue'

/** One golfer planned under two schools, side by side. */
const props = defineProps<{ id: string }>()
const { data: golfer } = useAthlete(() => props.id)
const { data: meta } = useMeta()
const a = ref('')
const b = ref('')
watch(
  [golfer, meta],
  ([g, m]) => {
    if (!g || !m) return
    // What was chosen while the golfer was still loading stays.
    a.value ||= g.school || (m.schools[0]?.id ?? '')
    b.value ||= m.schools.find((s) => s.id !== a.value)?.id ?? ''
  },
  { immediate: true },
)
const { data, error, isFetching } = useQuery({
  queryKey: keys.compared(() => props.id, a, b),
  queryFn: () =>
    must(
      api.GET('/athletes/{athleteId}/compare', {
        params: { path: { athleteId: props.id }, query: { a: a.value, b: b.value } },
      }),
    ),
  enabled: computed(() => !!a.value && !!b.value),
  retry: false,
})
const sides = computed(() => (data.value ? [data.value.a, data.value.b] : []))
const most = computed(() => Math.max(1, ...(data.value?.qualities.flatMap((q) => [q.a.minutes, q.b.minutes]) ?? [])))
const levels: Record<string, string> = { lead: 'leads', build: 'built', keep: 'kept', spare: 'spared' }
/** Drawn so far: what is compared, then what differs. */
const drawn = useTurns(() => (data.value ? 2 : 0))
const width = (v: number) => `${(100 * v) / most.value}%`
const dose = (q: Schemas['QualityShare']) => q.dose.toFixed(q.dose % 1 ? 1 : 0)
</script>

<template>
  <div class="sheet">
    <div class="row spread no-print">
      <h1>Compare schools</h1>
      <router-link :to="{ name: 'programme', params: { id: props.id } }">Back to the programme</router-link>
    </div>
    <div class="row pick no-print">
      <InTurns v-if="meta" :place="40">
        <SelectField v-model="a" :items="meta.schools.map((s) => ({ value: s.id, title: s.name }))" label="This one" />
        <SelectField v-model="b" :items="meta.schools.map((s) => ({ value: s.id, title: s.name }))" label="beside" />
        <v-btn size="small" @click="[a, b] = [b, a]">Change over</v-btn>
      </InTurns>
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <p v-if="!data && isFetching" class="quiet">Planning both…</p>
    <template v-if="data && drawn > 1">
      <ul class="sentences" data-testid="differs">
        <li v-for="s in data.sentences" :key="s">{{ s }}</li>
      </ul>
      <p class="small quiet">
        Their minutes differ by {{ data.distancePercent.toFixed(0) }}%. A mean rising week of the next block; nothing is
        kept of it.
      </p>
      <table class="compare">
        <thead>
          <tr>
            <th><span class="visually-hidden">What is compared</span></th>
            <th v-for="(w, i) in sides" :key="i">{{ w.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">Leads</th>
            <td v-for="(w, i) in sides" :key="i">{{ w.leaders.join(' and ') || 'nothing' }}</td>
          </tr>
          <tr v-if="sides.some((w) => w.outside.length)">
            <th scope="row">Not for this golfer</th>
            <td v-for="(w, i) in sides" :key="i" class="small attention">{{ w.outside.join(' ') }}</td>
          </tr>
          <tr>
            <th scope="row">Sessions</th>
            <td v-for="(w, i) in sides" :key="i" class="small">
              <div v-for="(s, k) in w.sessions" :key="k">
                <b>{{ s.letter }}</b> {{ s.title }}, <span class="num">{{ Math.round(s.minutes) }} min</span>
              </div>
            </td>
          </tr>
          <tr>
            <th scope="row">Sets by zone</th>
            <td v-for="(w, i) in sides" :key="i"><ZoneBar :shares="w.zones" :words="zoneWords" /></td>
          </tr>
          <tr>
            <th scope="row">Landings, throws, fast swings</th>
            <td v-for="(w, i) in sides" :key="i" class="num">{{ w.contacts }}, {{ w.throws }}, {{ w.swings }}</td>
          </tr>
          <tr v-for="q in data.qualities" :key="q.quality">
            <th scope="row">{{ capital(q.name) }}</th>
            <td v-for="(x, i) in [q.a, q.b]" :key="i">
              <div class="bar" :class="x.level"><span :style="{ width: width(x.minutes) }" /></div>
              <span class="small"
                ><b v-if="x.level === 'lead' || x.level === 'build'">{{ levels[x.level] }}</b
                ><template v-else>{{ levels[x.level] }}</template
                >, {{ dose(x) }} {{ q.unit }}, {{ x.minutes.toFixed(0) }} min
                <span v-if="x.held" class="attention">{{ x.held }}</span></span
              >
            </td>
          </tr>
          <tr v-if="sides.some((w) => w.unanswered.length)">
            <th scope="row">Left unanswered</th>
            <td v-for="(w, i) in sides" :key="i" class="small">
              <div v-for="u in w.unanswered" :key="u">{{ u }}</div>
            </td>
          </tr>
          <tr v-if="sides.some((w) => w.broken.length)">
            <th scope="row">Rules broken</th>
            <td v-for="(w, i) in sides" :key="i" class="small">
              <div v-for="r in w.broken" :key="r">{{ r }}</div>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.pick {
  max-width: 640px;
  margin: 10px 0;
}
.sentences {
  margin: 8px 0;
  padding-left: 18px;
  max-width: 860px;
}
.compare {
  border-collapse: collapse;
  width: 100%;
  max-width: 1000px;
  table-layout: fixed;
}
.compare th,
.compare td {
  text-align: left;
  vertical-align: top;
  padding: 5px 14px 5px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.1);
}
.compare th:first-child {
  width: 170px;
  font-weight: 600;
}
.bar {
  height: 8px;
  background: rgba(var(--v-theme-on-surface), 0.06);
}
.bar span {
  display: block;
  height: 100%;
  background: rgba(var(--v-theme-primary), 0.45);
}
.bar.lead span {
  background: rgb(var(--v-theme-secondary));
}
.bar.build span {
  background: rgb(var(--v-theme-primary));
}
@media (max-width: 600px) {
  .compare th:first-child {
    width: 92px;
  }
}
</style>
