<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useRead, useSession } from '@/api/queries'
import { useAddress } from '@/parts/address'
import { dayAndYear } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'
import { toShown } from '@/parts/speed'
import { useUnits } from '@/parts/units'
import { capital } from '@/parts/words'
import BlocksInTime from '@/plots/BlocksInTime.vue'
import TimeRow from '@/plots/TimeRow.vue'

import { rowsOf, spanOf } from './series'

/** What was trained and what became of it: club speed, the blocks, every test through time, and what the retest means. */
const props = defineProps<{ id: string }>()
const { data: session } = useSession()
const { data: read, error: readError } = useRead(() => props.id, '')
const { data: page, error } = useQuery({
  queryKey: keys.progress(() => props.id),
  queryFn: () => must(api.GET('/athletes/{athleteId}/progress', { params: { path: { athleteId: props.id } } })),
  retry: false,
})
const units = useUnits()
const unit = computed(() => units.value.speed)
const rows = computed(() => rowsOf(read.value?.tests ?? [], units.value))
const driver = computed(() => rows.value.find((r) => r.test === 'driver-speed'))
const speeds = computed(() =>
  (page.value?.speeds ?? []).map((s) => ({ date: s.date, value: toShown(s.mps, unit.value) })),
)
const today = computed(() => session.value?.today ?? '')
const span = computed(() => spanOf(rows.value, page.value?.blocks ?? [], speeds.value, today.value))
const speedLines = computed(() => [
  ...(driver.value?.lines ?? []),
  ...(speeds.value.length ? [{ side: 'other', points: speeds.value, error: 0 }] : []),
])

/** Tests by quality, what was judged first, then in the order of the read. */
const groups = computed(() => {
  const of = new Map((read.value?.tests ?? []).map((t) => [t.test, t.quality ?? '']))
  return (read.value?.qualities ?? [])
    .map((q) => ({ id: q.id, name: q.name, rows: rows.value.filter((r) => of.get(r.test) === q.id) }))
    .filter((g) => g.rows.length)
})
const retest = computed(() => page.value?.retests.at(-1))
const worked = computed(() => retest.value?.judged.filter((j) => j.was === 'lead' || j.was === 'build') ?? [])
const others = computed(
  () => retest.value?.judged.filter((j) => j.was !== 'lead' && j.was !== 'build' && j.verdict) ?? [],
)
const chosen = useAddress('quality')
const judged = computed(() => retest.value?.judged.find((j) => j.quality === chosen.value))
const decisions: Record<Schemas['JudgedQuality']['decision'], string> = {
  progress: 'Progress',
  keep: 'Keep',
  'upper-end': 'More of it',
  build: 'Build once',
  switch: 'Switch',
  again: 'Test again',
  ask: 'Ask why',
  wait: 'Wait',
  'not-tested': 'Not tested',
  'kept-up': 'Kept up',
  'too-little': 'Not judged',
  look: 'Look',
}
const mark = (v: Schemas['Verdict'] | undefined) =>
  v === 'real' ? 'solid arrow' : v === 'unclear' ? 'dashed arrow' : v ? 'dot' : 'none'
</script>

<template>
  <div class="split">
    <div class="sheet">
      <h1 class="visually-hidden">Progress</h1>
      <p v-if="error || readError" class="stop" role="alert">{{ (error ?? readError)?.message }}</p>
      <EmptyState
        v-else-if="read && page && rows.length === 0 && page.blocks.length === 0"
        title="Nothing to compare yet"
        text="Once there is a screen it stands here as a point; a second one makes a line, and a block between them is judged by it."
      >
        <v-btn variant="flat" color="action" :to="{ name: 'screen', params: { id: props.id } }">Start a screen</v-btn>
      </EmptyState>
      <template v-else-if="read && page">
        <section v-if="retest" data-testid="retest">
          <h2>
            Version {{ retest.version }}, retested {{ dayAndYear(retest.after) }}
            <span class="quiet small">against {{ dayAndYear(retest.before) }}</span>
          </h2>
          <ul class="judged">
            <li v-for="j in worked" :key="j.quality">
              <button class="plain" :class="{ on: j.quality === chosen }" @click="chosen = j.quality">
                <strong>{{ decisions[j.decision] }}</strong>
                <svg v-if="j.verdict" class="arrow" viewBox="0 0 22 14" role="img" :aria-label="j.verdict">
                  <circle v-if="j.verdict === 'within error'" cx="11" cy="7" r="3" />
                  <path
                    v-else
                    :class="{ dashed: mark(j.verdict) === 'dashed arrow' }"
                    :d="j.change >= 0 ? 'M2 12 L18 2 M11 2 L18 2 L18 8' : 'M2 2 L18 12 M11 12 L18 12 L18 6'"
                  />
                </svg>
                <span v-else class="arrow"></span>
                <span>{{ j.words }}</span>
              </button>
            </li>
          </ul>
          <details v-if="others.length" class="small">
            <summary>{{ others.length }} more were kept up</summary>
            <ul>
              <li v-for="j in others" :key="j.quality">{{ j.words }}</li>
            </ul>
          </details>
          <p v-for="n in retest.notes" :key="n" class="small quiet">{{ n }}</p>
          <v-btn size="small" variant="outlined" :to="{ name: 'programme', params: { id: props.id } }"
            >Draft the next block from it</v-btn
          >
        </section>
        <p v-else-if="page.blocks.length" class="small quiet">
          A screen behind a block's first days judges it: what really changed, and what that means for the next one.
        </p>

        <div class="lines">
          <h2>
            Club speed <span class="quiet small">{{ unit }}, driver, full intent</span>
          </h2>
          <TimeRow
            v-if="speedLines.length"
            :lines="speedLines"
            :from="span.from"
            :to="span.to"
            label="Club speed"
            :height="92"
            :decimals="1"
          />
          <p v-else class="small quiet">Not measured yet.</p>
          <p v-if="speeds.length" class="small quiet">
            Filled: the screen's test with its error. Open: the fastest of a day's series.
          </p>
          <h2>Trained <span class="quiet small">minutes a week as planned: led, built, kept up</span></h2>
          <BlocksInTime
            v-if="page.blocks.length"
            :blocks="page.blocks"
            :from="span.from"
            :to="span.to"
            :today="today"
          />
          <p v-else class="small quiet">No block was issued yet.</p>

          <section v-for="g in groups" :key="g.id" :class="{ on: g.id === chosen }">
            <h2>{{ capital(g.name) }}</h2>
            <div v-for="r in g.rows" :key="r.test" class="test">
              <div class="name">
                {{ r.name }} <span class="quiet small">{{ r.unit }}</span>
                <p v-for="c in r.changes.filter((c) => c.sentence)" :key="c.side" class="small">
                  <strong>{{ c.side ? capital(c.side) + ': ' : '' }}{{ c.verdict }}.</strong> {{ c.sentence }}
                </p>
              </div>
              <TimeRow :lines="r.lines" :from="span.from" :to="span.to" :label="r.name" :decimals="r.decimals" />
            </div>
          </section>
        </div>
      </template>
    </div>
    <ReasonRail :title="judged ? capital(judged.name) : 'How a change is judged'">
      <template v-if="judged">
        <p>{{ judged.words }}</p>
        <template v-if="judged.verdict">
          <p class="small">
            {{ judged.before.toFixed(2) }} spreads below target before, {{ judged.after.toFixed(2) }} after: better by
            {{ judged.change.toFixed(2) }}, with a typical error of {{ judged.error.toFixed(2) }} each time.
          </p>
          <p class="small">
            Real from {{ (1.96 * Math.SQRT2 * judged.error).toFixed(2) }} on, within the error below
            {{ (Math.SQRT2 * judged.error).toFixed(2) }}.
          </p>
        </template>
        <p v-if="judged.tests.length" class="small quiet">Tested both times: {{ judged.tests.join(', ') }}.</p>
        <button class="plain small" @click="chosen = ''">How a change is judged</button>
      </template>
      <template v-else>
        <p class="small">
          <strong>Real</strong>: larger than two results of the same golfer differ by chance 95 times of 100.
          <strong>Within error</strong>: no larger than they usually do. <strong>Unclear</strong> lies between.
        </p>
        <p class="small">
          The band around a line is one typical error of the test. What a quality gained is taken over the tests and
          sides done both times alone.
        </p>
        <p class="small quiet">
          Our default table: still clearly short and really better goes on, a rung up; unclear goes on; within the error
          gets more once, then something else leads; met, or no longer clear, makes room for the next need.
        </p>
      </template>
    </ReasonRail>
  </div>
</template>

<style scoped>
.judged {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.judged button {
  display: grid;
  grid-template-columns: 92px 26px 1fr;
  gap: 10px;
  align-items: center;
  width: 100%;
  text-align: left;
  padding: 5px 6px;
  border-left: 3px solid transparent;
}
.judged button.on {
  border-left-color: rgb(var(--v-theme-action));
  background: rgb(var(--v-theme-surface));
}
@media (max-width: 600px) {
  .judged button {
    grid-template-columns: auto 26px;
    justify-content: start;
  }
  .judged button > span:last-child {
    grid-column: 1 / -1;
  }
}
.arrow {
  width: 22px;
  height: 14px;
}
.arrow path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.8;
}
.arrow .dashed {
  stroke-dasharray: 3 2.4;
}
.lines {
  margin-top: 14px;
  display: grid;
  gap: 6px;
}
.lines h2 {
  margin-top: 10px;
}
.test {
  display: grid;
  gap: 2px;
  padding: 4px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
.test p {
  margin: 0;
}
section.on {
  box-shadow: inset 3px 0 rgb(var(--v-theme-action));
  padding-left: 8px;
}
</style>
