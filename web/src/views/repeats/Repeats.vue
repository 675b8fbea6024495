<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useBattery } from '@/api/queries'
import { useAddress } from '@/parts/address'
import { dayAndYear } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'
import { signed } from '@/parts/words'
import DifferencePlot from '@/plots/DifferencePlot.vue'

const client = useQueryClient()
const {
  data: list,
  error,
  isPending,
} = useQuery({ queryKey: keys.repeats(), queryFn: () => must(api.GET('/repeats')) })
const { data: battery } = useBattery()
const chosen = useAddress('test')
const test = computed(() => list.value?.find((t) => t.test === chosen.value) ?? list.value?.[0])
const unit = (t: Schemas['RepeatTest']) => (t.unit === 'deg' ? '°' : ` ${t.unit}`)
const f = (t: Schemas['RepeatTest'], v: number, more = 1) => signed(v, t.decimals + more)
const NEEDED = 10

const setConfidence = useMutation({
  mutationFn: (confidence: 80 | 90 | 95 | 99) =>
    must(api.PATCH('/battery', { body: { revision: battery.value?.revision ?? 0, confidence } })),
  onSuccess: async (b) => {
    client.setQueryData(keys.battery(), b)
    await client.invalidateQueries()
  },
})
</script>

<template>
  <div class="split">
    <div class="sheet">
      <div class="row spread">
        <h1>How sure are the numbers?</h1>
        <label class="small"
          >A difference is called real at
          <select
            :value="battery?.confidence ?? 95"
            aria-label="Confidence"
            @change="setConfidence.mutate(Number(($event.target as HTMLSelectElement).value) as 80 | 90 | 95 | 99)"
          >
            <option v-for="c in [80, 90, 95, 99]" :key="c" :value="c">{{ c }}% confidence</option>
          </select></label
        >
      </div>
      <p class="small quiet">
        Two screens of a golfer at most ten days apart are a test and its repeat. From ten pairs on, this squad's own
        error takes the place of our default. Pairs done another way, or with another intent, are not compared.
      </p>
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <p v-if="isPending" class="quiet">Reading the repeats …</p>
      <EmptyState
        v-else-if="list?.length === 0"
        title="No repeats yet"
        text="Screen some golfers twice within ten days, the same way. Until then our default errors are used, and every page says so."
      />
      <template v-else-if="list">
        <div class="wide-table">
          <table class="list">
            <thead>
              <tr>
                <th>Test</th>
                <th class="num">Pairs</th>
                <th class="num">Error used</th>
                <th>From</th>
                <th class="num">Real from</th>
                <th class="num">CV</th>
                <th class="num">ICC(3,1)</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in list" :key="t.test" :class="{ on: t.test === test?.test }">
                <td>
                  <button class="plain" :aria-pressed="t.test === test?.test" @click="chosen = t.test">
                    {{ t.name }}
                  </button>
                </td>
                <td class="num">{{ t.pairs.length }} ({{ t.golfers }} golfers)</td>
                <td class="num">{{ f(t, t.used) }}{{ unit(t) }}</td>
                <td>
                  {{ t.fromSquad ? 'this squad' : `our default (${Math.max(0, NEEDED - t.pairs.length)} pairs to go)` }}
                </td>
                <td class="num">{{ f(t, t.detectable) }}{{ unit(t) }}</td>
                <td class="num">{{ t.repeats ? t.repeats.cv.toFixed(1) + '%' : '–' }}</td>
                <td class="num">{{ t.repeats ? t.repeats.icc31.toFixed(2) : '–' }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <section v-if="test">
          <h2>{{ test.name }}: test and repeat</h2>
          <DifferencePlot v-if="test.repeats" :test="test" />
          <p v-else class="quiet">Three pairs are needed before anything can be worked out.</p>
          <details>
            <summary class="small">The {{ test.pairs.length }} pairs</summary>
            <div class="wide-table">
              <table class="small">
                <tbody>
                  <tr v-for="(p, i) in test.pairs" :key="i" :class="{ attention: test.repeats?.outliers.includes(i) }">
                    <td>{{ p.golfer }}</td>
                    <td>{{ p.side }}</td>
                    <td class="num">{{ p.first }} on {{ dayAndYear(p.firstDate) }}</td>
                    <td class="num">{{ p.second }} on {{ dayAndYear(p.secondDate) }}</td>
                    <td>{{ test.repeats?.outliers.includes(i) ? 'outside the limits: look at it, it counts' : '' }}</td>
                  </tr>
                </tbody>
              </table>
            </div>
          </details>
        </section>
      </template>
    </div>
    <ReasonRail :title="test?.name ?? 'Reasons'">
      <template v-if="test">
        <p class="small">
          {{
            test.fromSquad
              ? `Differences of this test are judged with this squad's typical error of ${f(test, test.used, 2)}${unit(test)}, from ${test.pairs.length} pairs.`
              : `Differences of this test are judged with our default error of ${f(test, test.default, 2)}${unit(test)}: ${test.pairs.length} pairs are too few for one of this squad's own.`
          }}
        </p>
        <dl v-if="test.repeats" class="small">
          <dt>Typical error (SD of differences / √2)</dt>
          <dd class="num">
            {{ f(test, test.repeats.typicalError, 2) }}{{ unit(test) }}, 95%
            {{ f(test, test.repeats.typicalErrorInterval.low, 2) }} to
            {{ f(test, test.repeats.typicalErrorInterval.high, 2) }}
          </dd>
          <dt>Mean change, second − first</dt>
          <dd class="num">
            {{ f(test, test.repeats.meanChange, 2) }}, 95% {{ f(test, test.repeats.changeInterval.low, 2) }} to
            {{ f(test, test.repeats.changeInterval.high, 2) }}
          </dd>
          <dt>Limits of agreement (± 1.96 SD)</dt>
          <dd class="num">{{ f(test, test.repeats.limits.low, 2) }} to {{ f(test, test.repeats.limits.high, 2) }}</dd>
          <dt>Minimal detectable change with the error used</dt>
          <dd class="num">{{ f(test, test.detectable, 2) }}{{ unit(test) }}</dd>
          <dt>Smallest worthwhile change (0.2 × pooled SD between people)</dt>
          <dd class="num">{{ f(test, test.repeats.smallestWorthwhile, 2) }}{{ unit(test) }}</dd>
          <dt>ICC (1,1), (2,1), (3,1)</dt>
          <dd class="num">
            {{ test.repeats.icc11.toFixed(3) }}, {{ test.repeats.icc21.toFixed(3) }},
            {{ test.repeats.icc31.toFixed(3) }}
          </dd>
        </dl>
        <p class="small quiet">
          Hopkins 2000 and 2004; Bland and Altman 1986; Shrout and Fleiss 1979; Weir 2005. Both sides of a golfer count
          as pairs of their own. Default from: {{ test.source }}.
        </p>
      </template>
    </ReasonRail>
  </div>
</template>

<style scoped>
.list {
  border-collapse: collapse;
}
td,
th {
  text-align: left;
  padding: 4px 16px 4px 0;
}
.list td,
.list th {
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
tr.on {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-action));
}
.list td:first-child {
  padding-left: 8px;
}
dt {
  margin-top: 8px;
  color: rgba(var(--v-theme-on-surface), 0.76);
}
dd {
  margin: 0;
}
section {
  margin-top: 14px;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
</style>
