<script setup lang="ts">
import { mdiPrinter } from '@mdi/js'
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useAthlete, useProgramme } from '@/api/queries'
import Folded from '@/parts/Folded.vue'
import { longDay } from '@/parts/days'
import TimedRunner from '@/parts/TimedRunner.vue'
import { capital } from '@/parts/words'
import { itemWords, stepsOf } from '@/views/warmup/steps'

const props = defineProps<{ id: string; programmeId: string; sessionId: string }>()
const { data: golfer } = useAthlete(props.id)
const { data: view, error } = useProgramme(props.programmeId)

const sessions = computed(
  () =>
    view.value?.programme.blocks.flatMap((b) =>
      b.weeks.flatMap((w) => w.sessions.map((s) => ({ ...s, week: w.number }))),
    ) ?? [],
)
const at = computed(() => sessions.value.findIndex((s) => s.id === props.sessionId))
const session = computed(() => sessions.value[at.value])
const link = (sessionId: string | undefined) =>
  sessionId ? { name: 'card', params: { id: props.id, programmeId: props.programmeId, sessionId } } : undefined
const sets = (n: number) => Array.from({ length: Math.min(n, 8) }, (_, i) => i + 1)
const rest = (s: number) => (s >= 60 ? `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')} min` : `${s} s`)
const fast = computed(() => session.value?.items.some((i) => ['swings', 'throw'].includes(i.slot)))
/** The session in the golfer's words, by item: left and right, and what each is good for. */
const { data: words, isPending: wording } = useQuery({
  queryKey: keys.sessionCard(
    () => props.programmeId,
    () => props.sessionId,
  ),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/sessions/{sessionId}/card', {
        params: { path: { programmeId: props.programmeId, sessionId: props.sessionId } },
      }),
    ),
  retry: false,
})
const own = computed(() => new Map((words.value ?? []).map((w) => [w.id, w])))
function print() {
  window.print()
}
/** The session's own warm-up, as the golfer is today. */
const {
  data: warmup,
  error: noWarmUp,
  isPending: warming,
} = useQuery({
  queryKey: keys.sessionWarmUp(
    () => props.programmeId,
    () => props.sessionId,
  ),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/sessions/{sessionId}/warmup', {
        params: { path: { programmeId: props.programmeId, sessionId: props.sessionId } },
      }),
    ),
  retry: false,
})
/** Whose card it is stands there first; the rest of it comes at once, when all of it is there. */
const whole = computed(() => !!session.value && !wording.value && !warming.value)
const running = ref(false)
/** What else of it a clock runs: its swings, and its grip work hand by hand. */
const { data: timed } = useQuery({
  queryKey: keys.timed(
    () => props.programmeId,
    () => props.sessionId,
  ),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/sessions/{sessionId}/timed', {
        params: { path: { programmeId: props.programmeId, sessionId: props.sessionId } },
      }),
    ),
  retry: false,
})
const part = ref<Schemas['TimedPart']>()
const partRuns = computed({ get: () => !!part.value, set: () => (part.value = undefined) })
</script>

<template>
  <div class="sheet">
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <div class="row spread no-print">
      <router-link :to="{ name: 'programme', params: { id: props.id, programmeId: props.programmeId } }"
        >Back to the programme</router-link
      >
      <div v-if="session" class="row">
        <v-btn :disabled="at <= 0" :to="link(sessions[at - 1]?.id)">Session before</v-btn>
        <v-btn :disabled="at >= sessions.length - 1" :to="link(sessions[at + 1]?.id)">Next session</v-btn>
        <Folded>
          <v-btn :disabled="!warmup" @click="running = true">Run the warm-up</v-btn>
          <v-btn v-for="p in timed" :key="p.name" @click="part = p">Run the {{ p.name }}</v-btn>
          <v-btn :href="`/api/v1/programmes/${props.programmeId}/exports/pdf?paper=a5&at=${props.sessionId}`" download
            >PDF</v-btn
          >
        </Folded>
        <v-btn variant="flat" color="action" :prepend-icon="mdiPrinter" @click="print">Print</v-btn>
      </div>
    </div>
    <p v-if="view && !session" class="stop">That session is not in the programme any more: it may have changed.</p>

    <article v-else-if="golfer" class="card" :data-testid="whole ? 'card' : undefined">
      <header>
        <div>
          <h1>{{ golfer.profile.name }}</h1>
          <p>{{ session?.title ?? '\u00a0' }}</p>
        </div>
        <div v-if="whole && session && view" class="when">
          <strong>{{ longDay(session.date) }}</strong>
          <span>Week {{ session.week }}, day {{ session.letter }} · {{ Math.round(session.minutes) }} min</span>
          <span v-if="view.status === 'draft'" class="draft">DRAFT, not issued</span>
          <span v-else>Version {{ view.version }}</span>
        </div>
      </header>
      <template v-if="whole && session && view">
        <p v-if="view.limits.length" class="limits"><strong>Limits:</strong> {{ view.limits.join('; ') }}</p>
        <p class="warm">
          <strong
            >Warm-up<template v-if="warmup">, {{ warmup.request.minutes }} min</template>:</strong
          >{{ ' ' }}
          <template v-if="warmup">{{ warmup.items.map(itemWords).join(' · ') }}</template>
          <template v-else-if="noWarmUp">{{ noWarmUp.message }}</template>
        </p>
        <p v-if="fast" class="warm">
          <strong>Before the fast work:</strong> look behind you, nobody in the circle; net or rated wall; dry floor;
          stay in balance, a slip does not count.
        </p>
        <table>
          <thead>
            <tr>
              <th><span class="visually-hidden">Figure</span></th>
              <th>Exercise</th>
              <th>Dose</th>
              <th>Rest</th>
              <th>Done</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(i, n) in session.items" :key="i.id">
              <td class="n">{{ n + 1 }}</td>
              <td>
                <strong>{{ own.get(i.id)?.name ?? i.name }}</strong>
                <span class="cue">{{ i.cues.join('. ') }}.</span>
                <span v-if="own.get(i.id)?.why" class="why">{{ capital(own.get(i.id)?.why ?? '') }}.</span>
              </td>
              <td>
                <strong>{{ own.get(i.id)?.dose ?? i.doseText }}</strong>
                <span v-if="i.dose.warmUpSets?.length" class="cue"
                  >first
                  {{
                    i.dose.warmUpSets
                      .map((w) => (w.loadKg ? `${w.loadKg} kg × ${w.reps}` : `light × ${w.reps}`))
                      .join(', ')
                  }}</span
                >
              </td>
              <td class="rest">{{ rest(i.dose.restSeconds) }}</td>
              <td class="log">
                <span v-for="s in sets(i.dose.sets + (i.dose.weakerSets ?? 0))" :key="s" class="boxed" />
              </td>
            </tr>
          </tbody>
        </table>
        <footer>
          <p>How hard, 0 to 10: ____ &nbsp; Pain, 0 to 10 and where: ____________ &nbsp; Minutes: ____</p>
          <p class="fine">
            Stop at pain. Not medical advice and no substitute for a licensed practitioner; local rules apply.
            {{ view.programme.schoolName }}, library {{ view.programme.libraryVersion }}.
          </p>
        </footer>
      </template>
    </article>
    <TimedRunner v-model="partRuns" :steps="part?.steps ?? []" :title="capital(part?.name ?? '')" />
    <TimedRunner
      v-model="running"
      :steps="stepsOf(warmup?.items ?? [], golfer?.profile.playingSide)"
      :title="warmup?.title ?? 'Warm-up'"
    />
  </div>
</template>

<style scoped>
.card {
  max-width: 900px;
  margin: 14px auto;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 20px 24px;
}
header {
  display: flex;
  justify-content: space-between;
  border-bottom: 2px solid currentcolor;
  padding-bottom: 6px;
}
header p {
  margin: 0;
}
.when {
  display: flex;
  flex-direction: column;
  text-align: right;
}
.draft {
  font-weight: 700;
}
.warm,
.limits {
  font-size: var(--small);
  margin: 6px 0;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-size: var(--small);
}
td {
  vertical-align: top;
  padding: 5px 8px 5px 0;
  border-top: 1px solid rgba(var(--v-theme-on-surface), 0.3);
}
td span {
  display: block;
}
.n {
  width: 22px;
}
.cue {
  font-size: var(--small);
}
.why {
  font-size: var(--small);
  opacity: 0.8;
}
.load {
  font-size: 0.92rem;
}
td:nth-child(3) {
  width: 31%;
}
.rest {
  white-space: nowrap;
  width: 76px;
}
.log {
  width: 132px;
}
.log .boxed {
  display: inline-block;
  width: 25px;
  height: 25px;
  border: 1px solid currentcolor;
  margin: 0 1px 1px 0;
}
footer {
  border-top: 2px solid currentcolor;
  margin-top: 6px;
  font-size: 0.9rem;
}
footer p {
  margin: 6px 0;
}
.fine {
  font-size: var(--small);
}
@media screen and (max-width: 600px) {
  .card {
    padding: 12px;
    border: 0;
  }
  .log,
  th:last-child {
    display: none;
  }
}
@media print {
  .sheet {
    padding: 0;
  }
  .card {
    --small: 8.5pt;
    border: 0;
    padding: 0;
    margin: 0;
    max-width: none;
    background: #fff;
    color: #000;
    font-size: 9.5pt;
    line-height: 1.25;
  }
  td {
    padding: 3px 6px 3px 0;
  }
  tr {
    break-inside: avoid;
  }
}
</style>
