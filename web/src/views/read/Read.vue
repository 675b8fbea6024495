<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { useAthlete, useMeta, useRead, useSession } from '@/api/queries'
import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'
import { toShown } from '@/parts/speed'
import HistoryLine from '@/plots/HistoryLine.vue'
import ShotSpread from '@/plots/ShotSpread.vue'
import SpreadStrip from '@/plots/SpreadStrip.vue'

import { useForcePage } from '../force/useForce'
import FindingList from '../force/FindingList.vue'
import ReferralDialog from './ReferralDialog.vue'

const props = defineProps<{ id: string }>()
const { data: meta } = useMeta()
const { data: golfer } = useAthlete(props.id)
const { data: session } = useSession()
const school = ref('')
watch(golfer, (g) => (school.value ||= g?.school ?? ''), { immediate: true })
const { data: read, error, isPlaceholderData } = useRead(props.id, school)

const { data: force } = useForcePage(() => props.id)
const opened = ref<string>()
const top = computed(() => read.value?.qualities.find((q) => q.status === 'ranked')?.id)
const selected = computed(() => opened.value ?? top.value ?? read.value?.qualities[0]?.id)
const quality = computed(() => read.value?.qualities.find((q) => q.id === selected.value))
/** A quality's tests: those that meet a target, and of the others those it rests on. */
const testsOf = (id: string) =>
  read.value?.tests.filter((t) => t.quality === id && (t.gap !== undefined || core.value.has(t.test))) ?? []
const core = computed(
  () => new Set((meta.value?.tests ?? []).filter((t) => (t.weight ?? 0) > 0 && !t.standsFor).map((t) => t.id)),
)
const referring = ref(false)
const more = ref(false)
const ranked = computed(() => read.value?.qualities.filter((q) => q.status === 'ranked') ?? [])
const rest = computed(() => read.value?.qualities.filter((q) => q.status !== 'ranked') ?? [])
const changes = computed(() =>
  (read.value?.tests ?? []).flatMap((t) =>
    t.sides.filter((s) => s.change).map((s) => ({ key: t.test + s.side, name: t.name, change: s.change })),
  ),
)
/** Where a predicted single stands between the lowest and the highest, a little room on both sides. */
function place(kg: number): string {
  const st = read.value?.strength
  if (!st) return '0'
  const all = [...st.equations.map((e) => e.oneRM), st.oneRM]
  const low = Math.min(...all)
  const span = Math.max(1, Math.max(...all) - low)
  return `${5 + ((kg - low) / span) * 90}%`
}
const marks = { real: '→', unclear: '⇢', 'within error': '•' } as const
const speed = (v: number | undefined) =>
  v === undefined ? '–' : `${toShown(v, session.value?.units.speed ?? 'mph').toFixed(1)} ${session.value?.units.speed}`
const minus = (s: string) => s.replace('-', '−')
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)
</script>

<template>
  <div class="split">
    <div class="sheet">
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <template v-if="read && meta">
        <div class="row spread">
          <h1>What holds club speed back</h1>
          <v-btn size="small" @click="referring = true">Referral note…</v-btn>
          <v-menu>
            <template #activator="{ props: menu }"><v-btn size="small" v-bind="menu">Export…</v-btn></template>
            <div class="box">
              <v-btn :href="`/api/v1/athletes/${props.id}/exports/csv`" download>Trials as CSV</v-btn>
              <v-btn :href="`/api/v1/athletes/${props.id}/exports/xlsx`" download>Trials as XLSX</v-btn>
              <v-btn :href="`/api/v1/athletes/${props.id}/exports/fhir`" download>For a clinic: FHIR R4</v-btn>
              <v-btn :href="`/api/v1/athletes/${props.id}/export`" download="golfer.json">Everything as JSON</v-btn>
            </div>
          </v-menu>
          <div class="schools" role="radiogroup" aria-label="School">
            <button
              v-for="s in meta.schools"
              :key="s.id"
              role="radio"
              :aria-checked="school === s.id"
              :class="{ on: school === s.id }"
              :title="s.logic"
              @click="school = s.id"
            >
              {{ s.name }}
            </button>
          </div>
        </div>
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
          <div class="legend small quiet">
            <span><i class="swatch" /> target ± half a spread</span>
            <span><i class="dotf" /> lead, toward, or the one result</span>
            <span><i class="doto" /> trail or away</span>
            <span>whisker: the test's own error</span>
            <span class="right">Screen of {{ longDay(read.screenDate) }}</span>
          </div>
          <div class="test axis small quiet" aria-hidden="true">
            <span>spreads from target</span>
            <span class="scale"
              ><i v-for="n in 6" :key="n" :style="{ left: (n - 1) * 20 + '%' }">{{ minus(String(n - 4)) }}</i></span
            >
          </div>
          <TransitionGroup name="move" tag="ol" class="qualities" :class="{ waiting: isPlaceholderData }">
            <li v-for="q in ranked" :key="q.id" :class="{ on: q.id === selected }">
              <button class="plain q" :aria-expanded="q.id === selected" @click="opened = q.id">
                <span class="rank num">{{ q.rank }}</span>
                <span class="name">{{ capital(q.name) }}</span>
                <span class="small sentence">{{
                  q.gap > 0
                    ? `${q.gap.toFixed(2)} spreads below target`
                    : q.gap < 0
                      ? `${(-q.gap).toFixed(2)} above target`
                      : 'at target'
                }}</span>
                <span class="small num quiet">need {{ minus(q.need.toFixed(2)) }}</span>
              </button>
              <div v-for="t in testsOf(q.id)" :key="t.test" class="test">
                <span class="small">{{ t.name }}</span>
                <SpreadStrip :test="t" />
              </div>
              <p v-if="q.id === selected" class="small open">{{ q.sentence }}</p>
            </li>
          </TransitionGroup>
          <section v-if="rest.length">
            <h2>Not ranked</h2>
            <ul class="qualities">
              <li v-for="q in rest" :key="q.id" :class="{ on: q.id === selected }">
                <button class="plain q" @click="opened = q.id">
                  <span class="rank">–</span>
                  <span class="name">{{ capital(q.name) }}</span>
                  <span class="small sentence wide">{{ q.sentence }}</span>
                </button>
                <div v-for="t in testsOf(q.id)" :key="t.test" class="test">
                  <span class="small">{{ t.name }}</span>
                  <SpreadStrip :test="t" />
                </div>
              </li>
            </ul>
          </section>
          <section v-if="force && force.recordings.length" data-testid="from-force">
            <h2>From force</h2>
            <p class="small quiet">
              {{ force.findingsFrom }}.
              <router-link :to="{ name: 'force', params: { id: props.id } }">Look at the recordings</router-link>
            </p>
            <FindingList v-if="force.findings.length" :findings="force.findings" />
            <p v-else class="small">Everything measured lies in its window.</p>
          </section>
          <div class="columns">
            <section>
              <h2>Club speed and reserve</h2>
              <p>{{ read.speed.goalSentence }}</p>
              <p>{{ read.speed.shareSentence }}</p>
              <div v-if="read.speed.driver !== undefined" class="bar" role="img" :aria-label="read.speed.shareSentence">
                <span
                  v-if="read.speed.cruise !== undefined"
                  class="cruise"
                  :style="{ width: (read.speed.shareOfCeiling ?? 0) * 100 + '%' }"
                  >course {{ speed(read.speed.cruise) }}</span
                >
                <span class="ceiling">ceiling {{ speed(read.speed.driver) }}</span>
              </div>
              <p v-if="read.speed.otherSide" class="small">Other side: {{ read.speed.otherSide.sentence }}</p>
              <p v-else class="small quiet">Other-side gap: not measured.</p>
              <p
                v-for="t in [read.speed.ladder, read.speed.stretch, read.speed.cold].filter(Boolean)"
                :key="t"
                class="small"
              >
                {{ t }}
              </p>
              <p v-if="read.speed.pull" class="small">{{ read.speed.pull.sentence }}</p>
            </section>
            <section v-if="read.strength">
              <h2>Predicted single</h2>
              <p class="small">{{ read.strength.sentence }}</p>
              <div class="equations small" role="img" :aria-label="read.strength.sentence">
                <div v-for="e in read.strength.equations" :key="e.name" :title="e.source">
                  <span>{{ e.name }}</span>
                  <span class="track"
                    ><i :style="{ left: place(e.oneRM) }" /><i
                      class="table"
                      :style="{ left: place(read.strength.oneRM) }"
                  /></span>
                  <span class="num">{{ e.oneRM.toFixed(1) }} kg</span>
                </div>
              </div>
              <p class="small quiet">
                Mark: the equation; line: the printed table that sets loads.
                {{
                  read.strength.valid
                    ? ''
                    : 'More than ten effective repetitions: none of them is advised for this set.'
                }}
              </p>
            </section>
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
            <section v-if="changes.length">
              <h2>Since the last screen</h2>
              <ul class="changes small">
                <li v-for="c in changes" :key="c.key">
                  <span class="arrow" aria-hidden="true">{{ c.change ? marks[c.change.verdict] : '' }}</span>
                  <strong>{{ c.name }}</strong>: {{ c.change?.sentence }}
                </li>
              </ul>
            </section>
            <section v-if="read.next.length">
              <h2>Test next</h2>
              <ul class="changes small">
                <li v-for="n in read.next.slice(0, more ? undefined : 6)" :key="n.test">{{ n.sentence }}</li>
              </ul>
              <v-btn v-if="read.next.length > 6" size="small" @click="more = !more">{{
                more ? 'Fewer' : `${read.next.length - 6} more`
              }}</v-btn>
              <p class="small quiet">
                The odds come from our own rough prior (docs/methods.md): where to look first, no more.
              </p>
            </section>
          </div>
        </template>
      </template>
      <p v-else-if="!error" class="quiet">Reading…</p>
    </div>
    <ReasonRail :title="quality ? capital(quality.name) : 'Reasons'">
      <template v-if="quality && read?.screenDate">
        <p>{{ quality.sentence }}</p>
        <p v-if="quality.why" class="small">{{ quality.why }}</p>
        <p class="small quiet">
          {{ Math.round(quality.coverage * 100) }}% of the quality is measured; it is ranked from 60%.
        </p>
        <div v-for="t in testsOf(quality.id)" :key="t.test" class="small">
          <h3>{{ t.name }}</h3>
          <p>{{ t.sentence }}</p>
          <p v-if="t.difference">{{ t.difference.sentence }}</p>
          <template v-for="s in t.sides" :key="s.side">
            <p v-if="s.percentile !== undefined">
              {{ capital(s.side) }}: percentile {{ s.percentile }}; {{ s.reference }}.
            </p>
            <p v-for="r in s.references ?? []" :key="r.source" :class="{ quiet: !r.fits }">
              {{ s.side ? capital(s.side) + ': ' : ''
              }}<template v-if="r.percentile !== undefined">percentile {{ r.percentile }}; </template>{{ r.text }}
              <span class="quiet">({{ r.source }}; {{ r.mark }})</span>
            </p>
            <p v-if="s.squad !== undefined">
              {{ s.side ? capital(s.side) + ': ' : '' }}percentile {{ s.squad }} in this squad.
            </p>
            <HistoryLine
              v-if="s.history && s.history.length > 1"
              :points="s.history"
              :error="s.typicalError"
              :open="['trail', 'away', 'other'].includes(s.side)"
              :label="`${t.name} ${s.side}`"
            />
          </template>
          <p class="quiet">
            Target and error: {{ t.source }}.
            <template v-if="t.detectable !== undefined"
              >Real from {{ t.detectable }} {{ t.unit }}; error: {{ t.errorFrom }}.</template
            >
          </p>
        </div>
        <template v-if="quality.id === 'mobility' && read.ranges.length">
          <h3>Range lines</h3>
          <p v-for="r in read.ranges" :key="r.test + r.side" class="small">{{ r.sentence }}</p>
        </template>
      </template>
      <p v-else class="small quiet">Choose a quality to see what it rests on.</p>
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
.schools {
  display: flex;
  border: 1px solid rgb(var(--v-theme-primary));
  border-radius: 3px;
}
.schools button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 5px 12px;
  cursor: pointer;
}
.schools button.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-surface));
}
.legend {
  display: flex;
  gap: 18px;
  align-items: center;
  flex-wrap: wrap;
}
.legend .right {
  margin-left: auto;
}
.swatch {
  display: inline-block;
  width: 22px;
  height: 12px;
  background: rgb(var(--v-theme-band));
}
.dotf,
.doto {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  border: 2px solid rgb(var(--v-theme-primary));
}
.dotf {
  background: rgb(var(--v-theme-primary));
}
.qualities {
  list-style: none;
  padding: 0;
  margin: 6px 0 16px;
}
.qualities.waiting {
  opacity: 0.6;
}
.qualities li {
  border-top: 1px solid rgb(var(--v-theme-line));
  padding: 4px 8px 6px;
}
.qualities li.on {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-action));
}
.q {
  display: grid;
  grid-template-columns: 26px 170px 1fr 90px;
  width: 100%;
  align-items: baseline;
}
.rank {
  font-size: 1.1rem;
  font-weight: 700;
}
.name {
  font-weight: 650;
}
.sentence.wide {
  grid-column: span 2;
}
.test {
  display: grid;
  grid-template-columns: 196px minmax(240px, 480px);
  align-items: center;
}
.test > span {
  padding-left: 26px;
}
.axis {
  padding-left: 8px;
}
.scale {
  position: relative;
  height: 18px;
}
.scale i {
  position: absolute;
  font-style: normal;
  transform: translateX(-50%);
}
.open {
  margin: 4px 0 0 26px;
  max-width: 780px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 26px;
  border-top: 1px solid rgb(var(--v-theme-line));
  padding-top: 14px;
}
.bar {
  position: relative;
  height: 26px;
  background: rgb(var(--v-theme-band));
  font-size: 0.82rem;
  line-height: 26px;
}
.cruise {
  position: absolute;
  inset: 0 auto 0 0;
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-surface));
  padding-left: 8px;
}
.ceiling {
  position: absolute;
  right: 0;
  top: 26px;
}
.bar + p {
  margin-top: 30px;
}
.changes {
  padding: 0;
  list-style: none;
}
.changes li {
  padding: 2px 0;
}
.equations > div {
  display: grid;
  grid-template-columns: 74px 1fr 70px;
  gap: 8px;
  align-items: center;
}
.equations .track {
  position: relative;
  height: 18px;
  border-bottom: 1px dotted rgba(var(--v-theme-on-surface), 0.3);
}
.equations i {
  position: absolute;
  top: 6px;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  background: rgb(var(--v-theme-primary));
  transform: translateX(-50%);
}
.equations i.table {
  top: 0;
  width: 0;
  height: 18px;
  border-radius: 0;
  border-left: 2px solid rgb(var(--v-theme-secondary));
}
.arrow {
  display: inline-block;
  width: 16px;
  font-weight: 700;
}
.move-move {
  transition: transform 0.35s ease;
}
</style>
