<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import TracePlot, { type TraceEvent, type TraceLine, type TracePart } from '@/plots/TracePlot.vue'

import PlotTools from './PlotTools.vue'
import { channel } from './trace'
import { flagWords, type Recording, useForceEdits, useTrace } from './useForce'

const props = defineProps<{ recording: Recording; jump: Schemas['JumpResult']; page?: Schemas['ForcePage'] }>()
const emit = defineEmits<{ remove: [] }>()
const jump = computed(() => props.jump)
const { data: trace, error } = useTrace(() => props.recording)
const { change } = useForceEdits(() => props.recording.athleteId)
const plot = useTemplateRef<InstanceType<typeof TracePlot>>('plot')

const whole = computed<[number, number]>(() => {
  const t = trace.value
  return t ? [t.startS, t.startS + (t.samples - 1) / t.rateHz] : [0, 1]
})
const zoomed = ref<[number, number]>()
const view = computed<[number, number]>(() => {
  if (zoomed.value) return zoomed.value
  const j = jump.value
  if (j.onsetS === null || j.takeoffS === null) return whole.value
  return [j.onsetS - 0.3, (j.landingS ?? j.takeoffS) + 0.5]
})
const cursor = ref(jump.value.propulsionStartS ?? jump.value.quietFromS)
const feet = ref(true)
const velocity = ref(false)
const slate = 'rgb(var(--v-theme-primary))'
const lines = computed<TraceLine[]>(() => {
  const t = trace.value
  const out: TraceLine[] = []
  const put = (name: string, foot: string, of: string, by: number, look: TraceLine['look'], colour: string) => {
    const values = channel(t, foot, of)
    if (values) out.push({ name, values, by, look, colour })
  }
  put('both feet', 'both', 'vertical', 1, 'thick', slate)
  if (feet.value) {
    put('lead', 'lead', 'up', 1, 'solid', 'rgb(var(--v-theme-secondary))')
    put('trail', 'trail', 'up', 1, 'dashed', 'rgb(var(--v-theme-secondary))')
  }
  if (velocity.value) put('velocity × 500', 'both', 'velocity', 1 / 500, 'dotted', 'rgb(var(--v-theme-action))')
  return out
})
const events = computed<TraceEvent[]>(() => {
  const j = jump.value
  return (
    [
      ['onset', j.onsetS],
      ['take-off', j.takeoffS],
      ['landing', j.landingS],
    ] as const
  ).flatMap(([name, t]) => (t === null ? [] : [{ key: name, name, t }]))
})
const parts = computed<TracePart[]>(() => {
  const j = jump.value
  const out: TracePart[] = [{ name: 'weighed', from: j.quietFromS, to: j.quietToS }]
  const put = (name: string, from: number | null, to: number | null) => {
    if (from !== null && to !== null) out.push({ name, from, to })
  }
  put('unweighting', j.brakingStartS === null ? null : j.onsetS, j.brakingStartS)
  put('braking', j.brakingStartS, j.propulsionStartS)
  put('propulsion', j.propulsionStartS, j.takeoffS)
  put('flight', j.takeoffS, j.landingS)
  return out
})
const flags = computed(() => jump.value.flags.map((f) => flagWords[f] ?? f))
interface Row {
  name: string
  value: number | null
  decimals: number
  unit: string
  how: string
}
const rows = computed<Row[]>(() => {
  const j = jump.value
  const r = (name: string, value: number | null, decimals: number, unit: string, how: string): Row => ({
    name,
    value,
    decimals,
    unit,
    how,
  })
  const cm = (v: number | null) => (v === null ? null : 100 * v)
  return [
    r('Height by take-off speed', cm(j.jumpHeightM), 1, 'cm', 'v²/2g'),
    r('Height by flight time', cm(j.flightHeightM), 1, 'cm', 'g·t²/8'),
    r('Their difference', cm(j.heightDifferenceM), 1, 'cm', 'flight less speed'),
    r(
      'Time to take-off',
      j.timeToTakeoffS,
      3,
      's',
      j.onsetRule === 'back30ms' ? 'onset 30 ms back' : 'onset to take-off',
    ),
    r('Modified reactive strength', j.rsiModified, 2, 'm/s', 'height over time to take-off'),
    r('Peak power', j.peakPowerW, 0, 'W', 'force times velocity'),
    r('Peak power per kg', j.peakPowerWPerKg, 1, 'W/kg', ''),
    r('Mean propulsive power', j.meanPropulsivePowerW, 0, 'W', ''),
    r('Peak force', j.peakPropulsiveForceN, 0, 'N', 'in the push'),
    r('Braking rate of force', j.brakingRfdNps, 0, 'N/s', 'body weight to lowest point'),
    r('Braking impulse', j.brakingImpulseNs, 0, 'N·s', 'above body weight'),
    r('Propulsive impulse', j.propulsiveImpulseNs, 0, 'N·s', 'above body weight'),
    r('Depth', cm(j.countermovementDepthM), 1, 'cm', 'centre of mass, lowest'),
    r('Landing peak', j.landingPeakPerBodyWeight, 1, 'BW', ''),
    r('Side difference, push', j.sideDifferencePct, 1, '%', 'of impulse; + lead more'),
    r('Side difference, landing', j.landingDifferencePct, 1, '%', 'of peak; + lead more'),
  ]
})
const text = (r: Row) =>
  r.value === null
    ? '–'
    : r.value
        .toFixed(r.decimals)
        .replace(/^-(?=0\.?0*$)/, '')
        .replace('-', '−')
/** Height of the two kinds of jump of one day beside each other. */
const compared = computed(() => props.page?.compared)
const bar = (m: number) =>
  `${(100 * m) / Math.max(compared.value?.countermovementM ?? 1, compared.value?.squatM ?? 1)}%`
</script>

<template>
  <div class="row spread">
    <h1>
      {{
        jump.kind === 'squat'
          ? 'Squat jump'
          : jump.jumpHeightM === null
            ? 'Recording without a jump'
            : 'Countermovement jump'
      }}, {{ longDay(props.recording.date) }}
    </h1>
    <PlotTools
      :recording="props.recording"
      :svg="() => plot?.svg ?? undefined"
      :busy="change.isPending.value"
      :can-undo="false"
      @remove="emit('remove')"
    />
  </div>
  <p data-testid="verdict">
    {{ props.recording.verdict }}
    <v-btn
      v-if="jump.jumpHeightM !== null && !props.recording.cells.length"
      size="x-small"
      @click="change.mutate({ id: props.recording.id, fill: true })"
      >Put it in the screen</v-btn
    >
  </p>
  <p v-if="error" class="stop small" role="alert">{{ error.message }}</p>
  <p v-if="flags.length" class="attention small">{{ flags.join(', ') }}</p>
  <div class="row small legend">
    <span><i class="k thick" /> both feet</span>
    <label v-if="jump.lead" class="row tight"
      ><input v-model="feet" type="checkbox" /> <i class="k bark" /> lead <i class="k bark dashed" /> trail</label
    >
    <label class="row tight"
      ><input v-model="velocity" type="checkbox" /> <i class="k rust" /> velocity, 1 m/s as 500 N</label
    >
    <v-btn size="x-small" @click="zoomed = zoomed ? undefined : whole">{{ zoomed ? 'The jump' : 'All of it' }}</v-btn>
  </div>
  <TracePlot
    v-if="trace"
    ref="plot"
    v-model:cursor="cursor"
    :lines="lines"
    :rate="trace.rateHz"
    :start="trace.startS"
    unit="N"
    :events="events"
    :parts="parts"
    :from="view[0]"
    :to="view[1]"
    label="Vertical force of the jump over time"
    @view="(a, b) => (zoomed = [a, b])"
  />
  <p v-else-if="!error" class="quiet small">Reading the signals …</p>
  <div class="columns">
    <table class="small">
      <tbody>
        <tr v-for="r in rows" :key="r.name">
          <th>{{ r.name }}</th>
          <td class="num">{{ text(r) }}</td>
          <td>{{ r.unit }}</td>
          <td class="quiet">{{ r.how }}</td>
        </tr>
      </tbody>
    </table>
    <div>
      <section v-if="jump.lead && jump.trail">
        <h3>Feet in the push</h3>
        <div class="feet" role="img" :aria-label="`Lead foot ${jump.lead.propulsiveSharePct.toFixed(0)}% of the push`">
          <span class="lead" :style="{ width: jump.lead.propulsiveSharePct + '%' }"
            >lead {{ jump.lead.propulsiveSharePct.toFixed(1) }}%</span
          ><span class="trail">trail {{ jump.trail.propulsiveSharePct.toFixed(1) }}%</span>
        </div>
      </section>
      <section v-if="compared">
        <h3>Stretch use, {{ longDay(props.page?.comparedOn ?? '') }}</h3>
        <div class="pair small">
          <span>Countermovement</span><span class="track"><i :style="{ width: bar(compared.countermovementM) }" /></span
          ><span class="num">{{ (100 * compared.countermovementM).toFixed(1) }} cm</span> <span>Squat</span
          ><span class="track"><i class="open" :style="{ width: bar(compared.squatM) }" /></span
          ><span class="num">{{ (100 * compared.squatM).toFixed(1) }} cm</span>
        </div>
        <p class="small" data-testid="stretch-use">
          {{ compared.ratio.toFixed(2) }} times the squat jump,
          {{ compared.augmentationPct.toFixed(0).replace('-', '−') }}% more from the stretch.
        </p>
      </section>
      <p class="small quiet">
        Body mass {{ jump.bodyMassKg.toFixed(1) }} kg, stance varied by {{ jump.quietSdN.toFixed(1) }} N · filter
        {{ jump.cutoffHz ? jump.cutoffHz + ' Hz' : 'none' }} · {{ props.recording.version }}
      </p>
      <p v-for="n in jump.notes" :key="n" class="small quiet">{{ n }}</p>
    </div>
  </div>
</template>

<style scoped>
.legend {
  gap: 16px;
}
.tight {
  gap: 4px;
}
.k {
  display: inline-block;
  width: 22px;
  border-top: 2px solid rgb(var(--v-theme-primary));
}
.k.thick {
  border-top-width: 3px;
}
.k.bark {
  border-color: rgb(var(--v-theme-secondary));
}
.k.dashed {
  border-top-style: dashed;
}
.k.rust {
  border-color: rgb(var(--v-theme-action));
  border-top-style: dotted;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(200px, 2fr);
  gap: 24px;
  margin-top: 8px;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
th {
  text-align: left;
  font-weight: 400;
  padding-right: 14px;
}
td {
  padding: 1px 8px 1px 0;
}
td.num {
  text-align: right;
  font-weight: 650;
}
.feet {
  display: flex;
  margin: 4px 0 12px;
  font-size: 0.84rem;
}
.feet span {
  padding: 2px 6px;
  white-space: nowrap;
}
.lead {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.trail {
  flex: 1;
  border: 1px dashed rgb(var(--v-theme-primary));
  text-align: right;
}
.pair {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 3px 10px;
  align-items: center;
}
.track {
  background: rgb(var(--v-theme-band));
  height: 10px;
}
.track i {
  display: block;
  height: 10px;
  background: rgb(var(--v-theme-primary));
}
.track i.open {
  background: none;
  border: 1px dashed rgb(var(--v-theme-primary));
}
</style>
