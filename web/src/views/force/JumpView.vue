<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import TracePlot, { type TraceEvent, type TraceLine, type TracePart } from '@/plots/TracePlot.vue'

import PlotTools from './PlotTools.vue'
import { type Row, rowsOf, shown } from './jumpRows'
import { channel } from './trace'
import { useEvents } from './useEvents'
import { flagWords, type Recording, useTrace } from './useForce'

const props = defineProps<{ recording: Recording; jump: Schemas['JumpResult']; page?: Schemas['ForcePage'] }>()
const emit = defineEmits<{ remove: [] }>()
const jump = computed(() => props.jump)
const { data: trace, error } = useTrace(() => props.recording)
const { moving, refused, before, change, placed, place, undo } = useEvents(() => props.recording)
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
      ['onsetS', 'onset', j.onsetS],
      ['takeoffS', 'take-off', j.takeoffS],
      ['landingS', 'landing', j.landingS],
    ] as const
  ).flatMap(([key, name, t]) => (t === null ? [] : [{ key, name, t: placed(key, t), movable: true }]))
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
const rows = computed(() => rowsOf(jump.value))
const value = (r: Row) => shown(jump.value[r.key] as number | null, r)
/** The golfer's earlier jumps of this kind: mean, and spread where there are two or more. */
const own = (r: Row) => {
  const b = props.recording.baseline
  if (!b || b.mean[r.key] === undefined) return ''
  const sd = b.sd[r.key]
  return shown(b.mean[r.key], r) + (sd === undefined ? '' : ` ± ${shown(sd, r)}`)
}
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
      :can-undo="before.length > 0"
      @undo="undo"
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
  <p v-if="props.recording.change" class="small" data-testid="height-change">{{ props.recording.change }}</p>
  <p v-if="error" class="stop small" role="alert">{{ error.message }}</p>
  <p v-if="refused" class="stop small" role="alert">{{ refused }}</p>
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
    @moving="(key, t) => (moving = { key, t })"
    @move="place"
    @view="(a, b) => (zoomed = [a, b])"
  />
  <p v-else-if="!error" class="quiet small reading">Reading the signals …</p>
  <div class="columns">
    <div class="wide-table" tabindex="0" role="region" aria-label="Numbers of the jump">
      <table class="small">
        <thead v-if="props.recording.baseline">
          <tr class="quiet">
            <td></td>
            <td colspan="2"></td>
            <td class="num own">own {{ props.recording.baseline.trials }} earlier</td>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.key">
            <th>{{ r.name }}</th>
            <td class="num">{{ value(r) }}</td>
            <td>{{ r.unit }}</td>
            <td v-if="props.recording.baseline" class="num own">{{ own(r) }}</td>
            <td class="quiet">{{ r.how }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div>
      <section v-if="jump.lead && jump.trail">
        <h2>Feet in the push</h2>
        <div class="feet" role="img" :aria-label="`Lead foot ${jump.lead.propulsiveSharePct.toFixed(0)}% of the push`">
          <span class="lead" :style="{ width: jump.lead.propulsiveSharePct + '%' }"
            >lead {{ jump.lead.propulsiveSharePct.toFixed(1) }}%</span
          ><span class="trail">trail {{ jump.trail.propulsiveSharePct.toFixed(1) }}%</span>
        </div>
      </section>
      <section v-if="compared">
        <h2>Stretch use, {{ longDay(props.page?.comparedOn ?? '') }}</h2>
        <div class="pair small">
          <span>Countermovement</span><span class="track"><i :style="{ width: bar(compared.countermovementM) }" /></span
          ><span class="num">{{ (100 * compared.countermovementM).toFixed(1) }} cm</span> <span>Squat</span
          ><span class="track"><i class="open" :style="{ width: bar(compared.squatM) }" /></span
          ><span class="num">{{ (100 * compared.squatM).toFixed(1) }} cm</span>
        </div>
        <p class="small" data-testid="stretch-use">{{ compared.sentence }}</p>
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
/* As tall as the plot that comes. */
.reading {
  min-height: 286px;
}
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
  grid-template-columns: minmax(0, 13fr) minmax(200px, 7fr);
  gap: 24px;
  margin-top: 8px;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
th,
td {
  white-space: nowrap;
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
td.own {
  font-weight: 400;
  padding-left: 6px;
}
.feet {
  display: flex;
  margin: 4px 0 12px;
  font-size: var(--small);
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
