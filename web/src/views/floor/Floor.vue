<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { ageWords } from '@/offline/age'
import { useKept } from '@/offline/kept'
import EmptyState from '@/parts/EmptyState.vue'
import { longDay } from '@/parts/days'
import { late, LateDialog } from '@/parts/late'

import { device, useFloorOutbox } from './floorOutbox'
import LogFiles from './LogFiles.vue'
import NextDose from './NextDose.vue'

const HistoryDialog = late(() => import('./HistoryDialog.vue'))
const VTextField = late(() => import('vuetify/components/VTextField').then((m) => ({ default: m.VTextField })))

type Row = Schemas['SessionRow']
const props = defineProps<{ id: string }>()
const client = useQueryClient()
const outbox = useFloorOutbox()
const { data, error, keptAt } = useKept({
  key: keys.floor(props.id),
  name: () => `week.${props.id}`,
  fetch: () => must(api.GET('/athletes/{athleteId}/floor', { params: { path: { athleteId: props.id } } })),
})
const { data: settings } = useQuery({
  queryKey: keys.floorSettings(),
  queryFn: () => must(api.GET('/floor/settings')),
})
const save = useMutation({
  mutationFn: (body: Schemas['FloorSettings']) => must(api.PUT('/floor/settings', { body })),
  onSuccess: (now) => client.setQueryData(keys.floorSettings(), now),
})
const words = { '': '', running: 'under way', done: 'done', stopped: 'broken off', missed: 'let go' } as const
const today = computed(() => data.value?.date ?? '')
const state = (r: Row) =>
  r.state
    ? words[r.state] + (r.done ? `: ${r.done}` : '')
    : r.missed
      ? 'nothing noted'
      : r.date === today.value
        ? 'today'
        : ''
const history = ref<Row>()
const showPast = ref(false)
const letting = ref<Row>()
const why = ref('')
function letGo() {
  const r = letting.value
  if (!r) return
  outbox.put({
    athleteId: props.id,
    session: r.session,
    entry: {
      id: crypto.randomUUID(),
      what: 'ended',
      value: { state: 'missed', ...(why.value.trim() ? { why: why.value.trim() } : {}) },
      clock: 1,
      at: new Date().toISOString(),
      device: device(),
    },
  })
  letting.value = undefined
  why.value = ''
}
</script>

<template>
  <div class="sheet floor">
    <div class="row spread">
      <h1>Floor</h1>
      <router-link :to="{ name: 'load', params: { id: props.id } }">Load</router-link>
    </div>
    <p v-if="keptAt" class="attention small" role="status">No connection: this is as it was {{ ageWords(keptAt) }}.</p>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <EmptyState
      v-if="data && !data.sessions.length && !data.past.length"
      title="No session is planned"
      text="Sessions of an issued programme stand here, to be run and logged."
    >
      <v-btn variant="flat" color="action" :to="{ name: 'programme', params: { id: props.id } }"
        >To the programme</v-btn
      >
    </EmptyState>
    <ul class="list">
      <li v-for="r in data?.sessions" :key="r.session" :class="{ today: r.date === today, home: r.kind === 'home' }">
        <router-link :to="{ name: 'run', params: { id: props.id, sessionId: r.session } }" class="open">
          <span class="day num">{{ longDay(r.date) }}</span>
          <span class="what">
            <strong>{{ r.letter ? `${r.letter} · ` : '' }}{{ r.title }}</strong>
            <span class="quiet small items">{{ r.items.join(' · ') }}</span>
          </span>
          <span class="quiet num min">{{ r.minutes ? `${Math.round(r.minutes)} min` : '' }}</span>
          <span class="state" :class="{ attention: r.missed }">{{ state(r) }}</span>
        </router-link>
        <span class="acts">
          <v-btn v-if="r.state" size="small" @click="history = r">History</v-btn>
          <v-btn v-else-if="r.missed || r.date === today" size="small" @click="letting = r">Let it go…</v-btn>
        </span>
      </li>
    </ul>
    <NextDose v-if="data || error" :id="props.id" />
    <template v-if="data?.past.length">
      <button type="button" class="plain link" :aria-expanded="showPast" @click="showPast = !showPast">
        {{ showPast ? 'Hide the weeks before' : `The weeks before: ${data.past.length} sessions` }}
      </button>
      <ul v-if="showPast" class="list">
        <li v-for="r in data.past" :key="r.session">
          <router-link :to="{ name: 'run', params: { id: props.id, sessionId: r.session } }" class="open">
            <span class="day num">{{ longDay(r.date) }}</span>
            <span class="what"
              ><strong>{{ r.letter ? `${r.letter} · ` : '' }}{{ r.title }}</strong></span
            >
            <span class="min" />
            <span class="state" :class="{ attention: r.missed }">{{ state(r) }}</span>
          </router-link>
          <span class="acts"><v-btn v-if="r.state" size="small" @click="history = r">History</v-btn></span>
        </li>
      </ul>
    </template>
    <LogFiles v-if="data || error" :id="props.id" />
    <label v-if="settings" class="setting"
      ><input
        type="checkbox"
        :checked="settings.smallSteps"
        @change="save.mutate({ ...settings, smallSteps: ($event.target as HTMLInputElement).checked })"
      />
      Small steps up pass by themselves in this practice (never for juniors, swaps or limits)</label
    >
    <HistoryDialog v-if="history" :id="props.id" :row="history" @close="history = undefined" />
    <LateDialog
      :model-value="!!letting"
      max-width="420"
      aria-label="Let a session go"
      @update:model-value="letting = undefined"
    >
      <div class="box">
        <h2>Let {{ letting?.title }} of {{ longDay(letting?.date ?? '') }} go?</h2>
        <VTextField v-model="why" label="Why" maxlength="200" />
        <div class="row">
          <v-btn variant="flat" color="action" @click="letGo">Let it go</v-btn>
          <v-btn @click="letting = undefined">Keep it</v-btn>
        </div>
      </div>
    </LateDialog>
  </div>
</template>

<style scoped>
.floor {
  display: grid;
  gap: 14px;
  align-content: start;
  max-width: 1100px;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid rgb(var(--v-theme-line));
}
.list li {
  display: flex;
  align-items: center;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.today {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 4px 0 0 rgb(var(--v-theme-action));
}
.open {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) 70px minmax(120px, 240px);
  gap: 10px;
  align-items: center;
  min-height: 54px;
  padding: 6px 10px;
  color: inherit !important;
  text-decoration: none;
}
.open:hover strong {
  text-decoration: underline;
}
.what {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.items {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.acts {
  width: 110px;
}
.link {
  color: rgb(var(--v-theme-action));
  text-decoration: underline;
  justify-self: start;
}
.setting {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
}
@media (max-width: 700px) {
  .open {
    grid-template-columns: 1fr auto;
  }
  .day {
    grid-column: 1;
  }
  .what {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .min {
    grid-row: 1;
    grid-column: 2;
  }
  .state {
    grid-column: 1 / -1;
  }
  .acts {
    width: auto;
  }
}
</style>
