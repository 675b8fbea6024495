<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import FootPlan from '@/plots/FootPlan.vue'
import OrderLine from '@/plots/OrderLine.vue'
import TracePlot, { type TraceEvent, type TraceLine } from '@/plots/TracePlot.vue'

import PlotTools from './PlotTools.vue'
import { channel } from './trace'
import { useEvents } from './useEvents'
import { flagWords, type Recording, useTrace } from './useForce'

const props = defineProps<{ recording: Recording; swing: Schemas['SwingResult'] }>()
const emit = defineEmits<{ remove: [] }>()
const swing = computed(() => props.swing)
const { data: trace, error } = useTrace(() => props.recording)
const { moving, refused, before, change, placed, place, undo } = useEvents(() => props.recording)

const newtons = ref(false)
const cursor = ref(swing.value.impactS)
const view = ref<[number, number]>([
  swing.value.takeawayS - 0.1,
  Math.min(swing.value.finishS, swing.value.impactS + 0.6),
])
const plot = useTemplateRef<InstanceType<typeof TracePlot>>('plot')
watch(
  () => props.recording.id,
  () => (cursor.value = swing.value.impactS),
)

/** The golfer's own best of each effort, this swing among them. */
const best = computed(() => {
  const b = props.recording.baseline?.best ?? {}
  return {
    lateral: Math.max(b.lateralN ?? 0, swing.value.lateral?.peak ?? 0) || 1,
    rotational: Math.max(b.rotationalNm ?? 0, swing.value.rotational?.peak ?? 0) || 1,
    vertical: Math.max(b.verticalN ?? 0, swing.value.vertical.peak) || 1,
  }
})
const slate = 'rgb(var(--v-theme-primary))'
const bark = 'rgb(var(--v-theme-secondary))'
const rust = 'rgb(var(--v-theme-action))'
const lines = computed<TraceLine[]>(() => {
  const t = trace.value
  const out: TraceLine[] = []
  const put = (name: string, foot: string, of: string, by: number, look: TraceLine['look'], colour: string) => {
    const values = channel(t, foot, of)
    if (values) out.push({ name, values, by, look, colour })
  }
  if (newtons.value) {
    put('lead up', 'lead', 'up', 1, 'solid', slate)
    put('trail up', 'trail', 'up', 1, 'dashed', slate)
    put('lead to target', 'lead', 'toTarget', 1, 'solid', rust)
    put('trail to target', 'trail', 'toTarget', 1, 'dashed', rust)
    put('lead to ball', 'lead', 'toBall', 1, 'solid', bark)
    put('trail to ball', 'trail', 'toBall', 1, 'dashed', bark)
    if (!out.length) put('up', 'total', 'up', 1, 'solid', slate)
    return out
  }
  put('vertical', 'both', 'vertical', best.value.vertical / 100, 'thick', slate)
  put('rotational', 'both', 'rotational', best.value.rotational / 100, 'solid', bark)
  put('lateral', 'both', 'lateral', best.value.lateral / 100, 'dotted', rust)
  return out
})
const names = [
  ['addressS', 'address'],
  ['takeawayS', 'takeaway'],
  ['topS', 'top'],
  ['transitionS', 'transition'],
  ['impactS', 'impact'],
  ['finishS', 'finish'],
] as const
const events = computed<TraceEvent[]>(() =>
  names.map(([key, name]) => ({
    key,
    name: key === 'topS' && swing.value.topEstimated ? 'top (estimate)' : name,
    t: placed(key, swing.value[key]),
    movable: true,
    guess: key === 'topS' && swing.value.topEstimated,
  })),
)
const flags = computed(() => swing.value.flags.map((f) => flagWords[f] ?? f))
</script>

<template>
  <div class="row spread">
    <h1>
      Swing, {{ longDay(props.recording.date)
      }}<span v-if="props.recording.club" class="quiet">, {{ props.recording.club }}</span>
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
  <p v-if="error" class="stop small" role="alert">{{ error.message }}</p>
  <p v-if="refused" class="stop small" role="alert">{{ refused }}</p>
  <p v-if="flags.length" class="attention small">{{ flags.join(', ') }}</p>
  <div class="main">
    <FootPlan
      v-if="trace"
      class="plan"
      :trace="trace"
      :at="cursor"
      :from="swing.takeawayS"
      :to="swing.finishS"
      :side="props.recording.side"
      :body-weight="swing.bodyWeightN"
    />
    <div class="right">
      <div class="row small legend">
        <template v-if="newtons">
          <span><i class="k solid slate" /> lead</span><span><i class="k dashed slate" /> trail</span>
          <span><i class="k solid slate" /> up</span><span><i class="k solid rust" /> to target</span
          ><span><i class="k solid bark" /> to ball</span>
        </template>
        <template v-else>
          <span><i class="k thick slate" /> vertical</span><span><i class="k solid bark" /> rotational</span
          ><span><i class="k dotted rust" /> lateral</span>
        </template>
        <v-btn size="x-small" :aria-pressed="newtons" @click="newtons = !newtons">{{
          newtons ? 'As share of own best' : 'Newtons of each foot'
        }}</v-btn>
      </div>
      <TracePlot
        v-if="trace"
        ref="plot"
        v-model:cursor="cursor"
        :lines="lines"
        :rate="trace.rateHz"
        :start="trace.startS"
        :unit="newtons ? 'N' : '% of own best'"
        :events="events"
        :from="view[0]"
        :to="view[1]"
        :label="newtons ? 'Forces of each foot over time' : 'Efforts over time as share of own best'"
        @moving="(key, t) => (moving = { key, t })"
        @move="place"
        @view="(a, b) => (view = [a, b])"
      />
      <p v-else class="quiet small reading">Reading the signals …</p>
      <OrderLine :swing="swing" />
    </div>
  </div>
  <dl class="answers" data-testid="answers">
    <template v-for="a in props.recording.answers" :key="a.question">
      <dt>{{ a.question }}</dt>
      <dd>
        {{ a.sentence }}
        <span class="small quiet">{{ a.baseline }} {{ a.window }}</span>
      </dd>
    </template>
  </dl>
  <details class="small">
    <summary>All numbers</summary>
    <table>
      <thead>
        <tr>
          <th>From</th>
          <th>To</th>
          <th class="num">s</th>
          <th class="num">lateral N·s</th>
          <th class="num">fore–aft N·s</th>
          <th class="num">vertical N·s above weight</th>
          <th class="num">turn N·m·s</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="i in swing.impulses" :key="i.from">
          <td>{{ i.from }}</td>
          <td>{{ i.to }}</td>
          <td class="num">{{ i.durationS.toFixed(2) }}</td>
          <td class="num">{{ i.lateralNs.toFixed(1) }}</td>
          <td class="num">{{ i.foreAftNs.toFixed(1) }}</td>
          <td class="num">{{ i.verticalNs.toFixed(1) }}</td>
          <td class="num">{{ i.turnNms.toFixed(1) }}</td>
        </tr>
      </tbody>
    </table>
    <p>
      Body mass {{ swing.bodyMassKg.toFixed(1) }} kg · largest rate {{ swing.maxRfd.toFixed(0) }} N/s over
      {{ (1000 * swing.maxRfdWindowS).toFixed(0) }} ms · lateral away
      {{ swing.lateralAway ? swing.lateralAway.peak.toFixed(0) + ' N' : '–' }} · fore–aft
      {{ swing.foreAft ? swing.foreAft.peak.toFixed(0) + ' N' : '–' }} · moment about
      {{ swing.about === 'midfoot' ? 'mid-foot' : 'the combined centre of pressure' }} · filter
      {{ swing.cutoffHz ? swing.cutoffHz + ' Hz' : 'none' }} · {{ props.recording.version }}
    </p>
    <p v-if="swing.afterImpact">
      After impact: lateral braking {{ swing.afterImpact.lateralAwayN.toFixed(0) }} N, turning back
      {{ swing.afterImpact.turnBackNm.toFixed(0) }} N·m, lowest vertical {{ swing.afterImpact.lowestUpN.toFixed(0) }} N,
      lead foot up to {{ swing.afterImpact.leadPeakUpN.toFixed(0) }} N.
    </p>
    <p v-for="n in swing.notes" :key="n" class="quiet">{{ n }}</p>
  </details>
</template>

<style scoped>
/* As tall as the plot that comes. */
.reading {
  min-height: 286px;
}
.main {
  display: grid;
  grid-template-columns: minmax(170px, 230px) minmax(0, 1fr);
  gap: 14px;
  margin-top: 6px;
}
@media (max-width: 1100px) {
  .main {
    grid-template-columns: 1fr;
  }
  .plan {
    max-width: 260px;
  }
}
.legend {
  gap: 14px;
}
.k {
  display: inline-block;
  width: 24px;
  border-top: 2px solid;
  vertical-align: middle;
  margin-right: 4px;
}
.k.thick {
  border-top-width: 3px;
}
.k.dashed {
  border-top-style: dashed;
}
.k.dotted {
  border-top-style: dotted;
}
.slate {
  border-color: rgb(var(--v-theme-primary));
}
.bark {
  border-color: rgb(var(--v-theme-secondary));
}
.rust {
  border-color: rgb(var(--v-theme-action));
}
.answers {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px 12px;
  margin: 10px 0;
}
dt {
  font-weight: 650;
}
dd {
  margin: 0;
}
dd span {
  display: block;
}
td,
th {
  text-align: left;
  padding: 1px 14px 1px 0;
}
td.num,
th.num {
  text-align: right;
}
</style>
