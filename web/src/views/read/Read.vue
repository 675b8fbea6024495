<script setup lang="ts">
import { computed, ref } from 'vue'

import { useAthlete, useMeta, useProgrammes, useRead, useSession } from '@/api/queries'
import { useAddress } from '@/parts/address'
import EmptyState from '@/parts/EmptyState.vue'
import { groupBy } from '@/parts/groupBy'
import ReasonRail from '@/parts/ReasonRail.vue'
import { lateDialog } from '@/parts/late'
import { useUnits } from '@/parts/units'
import { capital } from '@/parts/words'
import ShotSpread from '@/plots/ShotSpread.vue'

import FindingList from '../force/FindingList.vue'
import { useForcePage } from '../force/useForce'
import ChangeList from './ChangeList.vue'
import NextTests from './NextTests.vue'
import QualityList from './QualityList.vue'
import QualityReasons from './QualityReasons.vue'
import ReadHead from './ReadHead.vue'
import SpeedSection from './SpeedSection.vue'
import StrengthSection from './StrengthSection.vue'
import { useTurns } from '@/parts/turns'

const ReferralDialog = lateDialog(() => import('./ReferralDialog.vue'))

const props = defineProps<{ id: string }>()
const { data: meta } = useMeta()
const { data: golfer } = useAthlete(props.id)
const { data: session } = useSession()
const units = useUnits()
const { data: programmes } = useProgrammes(props.id)
// Which quality is looked into, and by which school, stands in the address.
const asked = useAddress('school')
const school = computed({
  get: () => asked.value || (golfer.value?.school ?? ''),
  set: (s) => (asked.value = s === golfer.value?.school ? '' : s),
})
const { data: read, error, isPlaceholderData } = useRead(props.id, asked)
const { data: force } = useForcePage(() => props.id)

/** The tests a quality shows: those that meet a target, and of the others those it rests on. */
const tests = computed(() => {
  const core = new Set((meta.value?.tests ?? []).filter((t) => (t.weight ?? 0) > 0 && !t.standsFor).map((t) => t.id))
  return groupBy(
    (read.value?.tests ?? []).filter((t) => t.gap !== undefined || core.has(t.test)),
    (t) => t.quality ?? '',
  )
})
const opened = useAddress('quality')
const chosen = computed({
  get: () =>
    opened.value || (read.value?.qualities.find((q) => q.status === 'ranked')?.id ?? read.value?.qualities[0]?.id),
  set: (id) => (opened.value = id ?? ''),
})
const quality = computed(() => read.value?.qualities.find((q) => q.id === chosen.value))
/** Drawn so far: the qualities, what force says, what follows from it, what the chosen one rests on. */
const drawn = useTurns(() => (read.value && meta.value ? 4 : 0))
const referring = ref(false)
const drafts = computed(() => {
  const list = programmes.value
  if (!read.value?.screenDate || !list || list.some((p) => p.status === 'draft')) return ''
  return list.length === 0 ? 'first' : 'next'
})
</script>

<template>
  <div class="split">
    <div class="sheet">
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <ReadHead
        v-model="school"
        :athlete-id="props.id"
        :schools="meta?.schools ?? []"
        :drafts="drafts"
        @refer="referring = true"
      />
      <template v-if="read && meta">
        <p class="headline" data-testid="headline" :class="{ stop: read.clearance.state === 'red-flag' }">
          {{ read.headline }}
        </p>
        <p v-for="p in read.pain" :key="p" class="stop small">{{ p }}</p>
        <p v-for="n in read.notes" :key="n" class="attention small">{{ n }}</p>

        <EmptyState
          v-if="!read.screenDate"
          title="No screen yet"
          text="Start one, or bring in a file. Until then nothing can be said about what holds speed back."
        >
          <v-btn variant="flat" color="action" :to="{ name: 'screen', params: { id: props.id } }"
            >Go to the screen</v-btn
          >
        </EmptyState>
        <template v-else>
          <QualityList
            v-model="chosen"
            :read="read"
            :tests="tests"
            :waiting="isPlaceholderData"
            :playing-side="golfer?.profile.playingSide"
          />
          <section v-if="drawn > 1 && force && force.recordings.length" data-testid="from-force">
            <h2>From force</h2>
            <p class="small quiet">
              {{ force.findingsFrom }}.
              <router-link :to="{ name: 'force', params: { id: props.id } }">Look at the recordings</router-link>
            </p>
            <FindingList v-if="force.findings.length" :findings="force.findings" />
            <p v-else class="small">Everything measured lies in its window.</p>
          </section>
          <div v-if="drawn > 2" class="columns">
            <SpeedSection :speed="read.speed" :unit="session?.units.speed ?? 'mph'" />
            <StrengthSection v-if="read.strength" :strength="read.strength" />
            <section v-if="read.maturity">
              <h2>Growth</h2>
              <p class="small" :class="{ attention: read.maturity.nearSpurt }">{{ read.maturity.sentence }}</p>
              <ul class="changes small">
                <li v-for="c in read.maturity.changes" :key="c">{{ c }}</li>
              </ul>
            </section>
            <section v-if="read.accuracy.length">
              <h2>Accuracy beside speed</h2>
              <ul class="changes small">
                <li v-for="a in read.accuracy" :key="a.test">
                  {{ a.sentence }}
                  <ShotSpread :spread="a.spread" :unit="a.unit" :name="a.name" />
                </li>
              </ul>
            </section>
            <ChangeList :tests="read.tests" />
            <NextTests v-if="read.next.length" :next="read.next" />
          </div>
        </template>
      </template>
      <p v-else-if="!error" class="quiet">Reading…</p>
    </div>
    <ReasonRail :title="quality ? capital(quality.name) : 'Reasons'">
      <template v-if="drawn > 3 && quality && read?.screenDate">
        <QualityReasons
          :quality="quality"
          :tests="tests.get(quality.id) ?? []"
          :ranges="quality.id === 'mobility' ? read.ranges : []"
          :units="units"
        />
      </template>
      <p v-else-if="!(quality && read?.screenDate)" class="small quiet">Choose a quality to see what it rests on.</p>
    </ReasonRail>
    <ReferralDialog v-model="referring" :athlete-id="props.id" />
  </div>
</template>

<style scoped>
.headline {
  font-size: 1.06rem;
  max-width: 860px;
  margin: 8px 0 10px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 26px;
  border-top: 1px solid rgb(var(--v-theme-line));
  padding-top: 14px;
}
.changes {
  padding: 0;
  list-style: none;
}
.changes li {
  padding: 2px 0;
}
</style>
