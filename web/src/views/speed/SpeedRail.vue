<script setup lang="ts">
import { computed } from 'vue'

import { longDay } from '@/parts/days'
import { toShown } from '@/parts/speed'
import ReasonRail from '@/parts/ReasonRail.vue'
import LoadLine from '@/plots/LoadLine.vue'

import ColdStartResult from './ColdStartResult.vue'
import type { Page, Series } from './useSpeed'

/** What a golfer's swings say beyond today: the cold start, load against speed, both sides, earlier days. */
const props = defineProps<{ page: Page; unit: 'mph' | 'm/s'; golfer: string; shown: string }>()
const emit = defineEmits<{ open: [s: Series]; inventory: [] }>()
const show = (v: number) => toShown(v, props.unit)
const kinds = { training: 'swings', 'cold-start': 'cold start', trial: 'warm-up trial' }
const best = (s: Series) => Math.max(0, ...s.summaries.map((x) => x.bestMps))
const sides = computed(() => props.page.sides.slice(-6))
</script>

<template>
  <ReasonRail title="What the swings say">
    <section>
      <ColdStartResult
        v-if="props.page.coldStart"
        :cold="props.page.coldStart"
        :unit="props.unit"
        :golfer="props.golfer"
      />
      <p v-else class="small">
        No cold start yet: what the first tee costs is not known, and warm-ups take a ladder of eight swings.
      </p>
    </section>
    <section>
      <h3>Speed by mass</h3>
      <template v-if="props.page.profile">
        <LoadLine
          :profile="props.page.profile"
          :other="props.page.otherProfile"
          :own="props.page.own.massG"
          :show="show"
          :unit="props.unit"
        />
        <p class="small">{{ props.page.profile.emphasis }}</p>
        <p v-if="props.page.otherProfile" class="small quiet">Round: own side. Diamond: other side.</p>
      </template>
      <p v-else class="small quiet">{{ props.page.noProfile }}</p>
      <p v-if="props.page.ladder.length > 1" class="small">
        Fast sets:
        <template v-for="(r, k) in props.page.ladder" :key="k"
          >{{ k ? ' → ' : '' }}{{ r.implement.name.toLowerCase() }} ({{
            Math.abs(r.percent) < 2 ? 'own' : `${r.percent > 0 ? '+' : '−'}${Math.abs(r.percent).toFixed(0)}%`
          }})</template
        >.
      </p>
      <v-btn size="small" @click="emit('inventory')">Implements…</v-btn>
    </section>
    <section v-if="props.page.levers.length">
      <h3>Forearm lever</h3>
      <details v-for="l in props.page.levers" :key="l.name" class="small">
        <summary>{{ l.name }}</summary>
        <table>
          <thead>
            <tr>
              <th>Hand down</th>
              <th>Clubs</th>
              <th>Hinge</th>
              <th>Roll</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(s, k) in l.steps" :key="k">
              <td class="num">{{ (100 * s.chokeM).toFixed(0) }} cm</td>
              <td class="num">{{ s.clubs }}</td>
              <td class="num">{{ s.hingeNm.toFixed(2) }} N·m</td>
              <td class="num">{{ s.rollNm.toFixed(2) }} N·m</td>
            </tr>
          </tbody>
        </table>
        <p class="quiet">
          Arm level, hinge with the club level, roll with it halfway down. Each step is at most a fifth harder.
        </p>
      </details>
    </section>
    <section v-if="props.page.share">
      <h3>Course swing</h3>
      <p class="small">{{ props.page.share.pct.toFixed(0) }}% of the fastest: {{ props.page.share.words }}.</p>
    </section>
    <section v-if="sides.length">
      <h3>Other side through time</h3>
      <table class="small">
        <tbody>
          <tr v-for="s in sides" :key="s.date + s.implement">
            <td>{{ longDay(s.date) }}</td>
            <td>{{ s.implement }}</td>
            <td class="num">{{ show(s.playingMps).toFixed(1) }} / {{ show(s.otherMps).toFixed(1) }}</td>
            <td class="num">−{{ s.gapPct.toFixed(0) }}%</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section v-if="props.page.series.length">
      <h3>Days</h3>
      <ul class="days">
        <li v-for="s in props.page.series" :key="s.id">
          <button class="plain" :class="{ now: s.id === props.shown }" @click="emit('open', s)">
            {{ longDay(s.date) }}, {{ kinds[s.kind] }}
            <span class="quiet"
              >{{ s.swings.length }}<template v-if="best(s)">, best {{ show(best(s)).toFixed(1) }}</template></span
            >
          </button>
        </li>
      </ul>
    </section>
  </ReasonRail>
</template>

<style scoped>
section {
  margin-top: 16px;
}
p {
  margin: 6px 0;
}
td {
  padding: 2px 10px 2px 0;
}
.days {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
}
.days button {
  padding: 4px 0;
  min-height: 30px;
}
.now {
  font-weight: 650;
}
@media (pointer: coarse) {
  .days button {
    min-height: 44px;
  }
}
</style>
