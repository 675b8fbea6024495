<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { CellChange, Test } from './cells'
import { type Squeeze, useLiveGrip, WINDOW } from './useLiveGrip'

/** Records a grip test from the dynamometer: live trace, squeezes as they come, kept as trials of the chosen side. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ test: Test; side: string; tests: Test[] }>()
const emit = defineEmits<{ keep: [cells: CellChange[]] }>()

const live = useLiveGrip()
const { state, text, device, trace, squeezes, health } = live
const hand = ref('lead')
const left = ref(new Set<number>())

watch(open, (is) => {
  hand.value = props.side || 'lead'
  left.value = new Set()
  if (is) live.start()
  else live.stop()
})

const trials = computed(() => props.test.trials)
/** The squeezes that become trials: those not left out, the first ones first. */
const taken = computed(() => squeezes.value.map((q, i) => ({ q, i })).filter(({ i }) => !left.value.has(i)))
function trialOf(index: number): number | undefined {
  const at = taken.value.findIndex((t) => t.i === index)
  return at >= 0 && at < trials.value ? at + 1 : undefined
}
function toggle(i: number) {
  const now = new Set(left.value)
  if (!now.delete(i)) now.add(i)
  left.value = now
}

/** What of a squeeze goes into which test. */
function values(q: Squeeze): [string, string][] {
  // In its own unit, whatever the practice reads: what the device says is in kilograms.
  const kg = (v: number) => `${v.toFixed(1)} kg`
  if (props.test.id === 'grip-sustain') return [['grip-sustain', kg(q.hold)]]
  if (props.test.id.startsWith('grip-burst'))
    return [
      ['grip-burst', kg(q.peak)],
      ['grip-burst-time', q.timeToPeakMs.toFixed(0)],
      ['grip-burst-rate', q.rate.toFixed(0)],
    ]
  return [[props.test.id, kg(q.peak)]]
}
function keep() {
  const cells: CellChange[] = []
  for (const [n, { q }] of taken.value.slice(0, trials.value).entries()) {
    for (const [test, value] of values(q)) {
      if (props.tests.some((t) => t.id === test))
        cells.push({ test, side: hand.value, trial: n + 1, text: value, device: device.value || 'dynamometer' })
    }
  }
  live.stop()
  emit('keep', cells)
  open.value = false
}

const W = 660
const H = 190
const top = computed(() => Math.max(20, ...trace.value.map((p) => p[1])) * 1.1)
const end = computed(() => Math.max(WINDOW, trace.value.at(-1)?.[0] ?? WINDOW))
const x = (t: number) => 34 + ((t - (end.value - WINDOW)) / WINDOW) * (W - 44)
const y = (v: number) => H - 20 - (v / top.value) * (H - 30)
const path = computed(() => trace.value.map((p) => `${x(p[0]).toFixed(1)},${y(p[1]).toFixed(1)}`).join(' '))
const seen = computed(() => squeezes.value.map((q, i) => ({ q, i })).filter(({ q }) => q.end > end.value - WINDOW))
const ticks = computed(() => [0, Math.round(top.value / 2 / 10) * 10, Math.round((top.value * 0.9) / 10) * 10])
const now = computed(() => trace.value.at(-1)?.[1] ?? 0)
</script>

<template>
  <v-dialog v-model="open" max-width="740">
    <div class="box">
      <div class="row spread">
        <h2>{{ props.test.name }}: live</h2>
        <span class="big num" aria-live="off">{{ now.toFixed(1) }} kg</span>
      </div>
      <div class="row small">
        <span>Hand</span>
        <label v-for="s in ['lead', 'trail']" :key="s" class="row"
          ><input v-model="hand" type="radio" name="hand" :value="s" /> {{ s }}</label
        >
        <span class="quiet" data-testid="live-state">{{ device }} {{ state === 'live' ? 'recording' : text }}</span>
      </div>
      <svg
        :viewBox="`0 0 ${W} ${H}`"
        class="trace"
        role="img"
        :aria-label="`Force over time, now ${now.toFixed(1)} kg`"
      >
        <g v-for="t in ticks" :key="t">
          <line :x1="34" :x2="W - 10" :y1="y(t)" :y2="y(t)" class="grid" />
          <text x="28" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
        </g>
        <text x="28" y="10" text-anchor="end">kg</text>
        <rect
          v-for="{ q, i } in seen"
          :key="i"
          :x="Math.max(34, x(q.onset))"
          :width="Math.max(1, x(q.end) - Math.max(34, x(q.onset)))"
          y="8"
          :height="H - 28"
          :class="['squeeze', { out: left.has(i) }]"
        />
        <polyline :points="path" class="line" />
        <text
          v-for="{ q, i } in seen"
          :key="'t' + i"
          :x="Math.max(38, x(q.onset) + 3)"
          :y="Math.max(18, y(q.peak) - 5)"
        >
          {{ q.peak.toFixed(1) }}
        </text>
        <text :x="W - 10" :y="H - 4" text-anchor="end">{{ WINDOW }} s</text>
      </svg>
      <p v-if="health.length" class="small attention" data-testid="live-health">
        On the line: {{ health.join(', ') }}. What can be used is used.
      </p>
      <div class="scroll">
        <table class="small">
          <thead>
            <tr>
              <th>Trial</th>
              <th class="num">Peak kg</th>
              <th class="num">Mean over hold kg</th>
              <th class="num">Hold s</th>
              <th class="num">Fall-off %</th>
              <th class="num">To peak ms</th>
              <th class="num">Rate kg/s</th>
              <th><span class="visually-hidden">Which trial</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(q, i) in squeezes" :key="i" :class="{ quiet: trialOf(i) === undefined }" data-testid="squeeze">
              <td>{{ trialOf(i) ?? '–' }}</td>
              <td class="num">{{ q.peak.toFixed(1) }}</td>
              <td class="num">{{ q.hold.toFixed(1) }}</td>
              <td class="num">{{ q.holdSeconds.toFixed(1) }}</td>
              <td class="num">{{ q.fallOff.toFixed(0) }}</td>
              <td class="num">{{ q.timeToPeakMs.toFixed(0) }}</td>
              <td class="num">{{ q.rate.toFixed(0) }}</td>
              <td>
                <v-btn size="small" @click="toggle(i)">{{ left.has(i) ? 'Take' : 'Leave out' }}</v-btn>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="squeezes.length === 0" class="small quiet">No squeeze yet: “{{ props.test.say }}”</p>
      </div>
      <div class="row">
        <v-btn variant="flat" color="action" :disabled="taken.length === 0" @click="keep"
          >Keep {{ Math.min(taken.length, trials) }} of {{ trials }} trials</v-btn
        >
        <v-btn v-if="state === 'live'" @click="live.stop()">Stop</v-btn>
        <v-btn v-else @click="live.start()">Begin again</v-btn>
        <v-btn @click="open = false">Discard</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.big {
  font-size: 2rem;
  font-weight: 650;
}
.trace {
  width: 100%;
  background: rgb(var(--v-theme-background));
}
.grid {
  stroke: rgba(var(--v-theme-on-surface), 0.15);
}
.line {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.8;
}
.squeeze {
  fill: rgb(var(--v-theme-band));
}
.squeeze.out {
  fill: none;
  stroke: rgba(var(--v-theme-on-surface), 0.3);
  stroke-dasharray: 3 3;
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
.scroll {
  max-height: 200px;
  overflow: auto;
}
td,
th {
  text-align: left;
  padding: 1px 12px 1px 0;
}
td.num,
th.num {
  text-align: right;
}
</style>
