<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { signed } from '@/parts/words'

import { savePng, saveSvg } from './savePicture'
import { at, ticks } from './trace'

/** One or two sets of swings over each other: mean and one standard deviation, the difference and where it leaves. */
const props = defineProps<{ athleteId: string; first: string[]; second: string[] }>()
const { data, error, isFetching } = useQuery({
  queryKey: keys.overlay(
    () => props.first.join(),
    () => props.second.join(),
  ),
  queryFn: () =>
    must(
      api.POST('/athletes/{athleteId}/force/overlay', {
        params: { path: { athleteId: props.athleteId } },
        body: { first: props.first, second: props.second },
      }),
    ),
  placeholderData: (before) => before,
})
const svg = useTemplateRef<SVGSVGElement>('svg')
const cv = ref(false)

const W = 760
const each = 168
const left = 46
const efforts = computed(() => (data.value?.efforts ?? []).filter((e) => e.first || e.second))
const H = computed(() => 36 + efforts.value.length * each)
const x = (i: number) => left + (i / ((data.value?.points ?? 2) - 1)) * (W - left - 10)

interface Panel {
  name: string
  unit: string
  top: number
  y: (v: number) => number
  yTicks: number[]
  band: [string, string]
  line: [string, string]
  difference: string
  zero: number
  leaves: { from: number; to: number; text: string }[]
  cv: string
}
const panels = computed<Panel[]>(() =>
  efforts.value.map((e, k) => {
    const top = 34 + k * each
    const inner = each - 60
    const all = [e.first, e.second].flatMap((b) =>
      b ? [...b.mean.map((m, i) => m - at(b.sd, i)), ...b.mean.map((m, i) => m + at(b.sd, i))] : [],
    )
    const low = Math.min(0, ...all)
    const high = Math.max(0.1, ...all)
    const y = (v: number) => top + ((high - v) / (high - low)) * inner
    const line = (m?: number[]) =>
      m?.map((v, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)},${y(v).toFixed(1)}`).join('') ?? ''
    const band = (b: typeof e.first) =>
      b && b.swings > 1
        ? b.mean.map((m, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)},${y(m + at(b.sd, i)).toFixed(1)}`).join('') +
          [...b.mean.keys()]
            .reverse()
            .map((i) => `L${x(i).toFixed(1)},${y(at(b.mean, i) - at(b.sd, i)).toFixed(1)}`)
            .join('') +
          'Z'
        : ''
    const d = e.overlay?.difference
    const size = Math.max(0.01, ...(d ?? []).map(Math.abs))
    const zero = top + inner + 18
    return {
      name: e.name,
      unit: e.unit,
      top,
      y,
      yTicks: ticks(low, high, 3),
      band: [band(e.first), band(e.second)],
      line: [line(e.first?.mean), line(e.second?.mean)],
      difference:
        d?.map((v, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)},${(zero - (v / size) * 12).toFixed(1)}`).join('') ?? '',
      zero,
      leaves: e.overlay?.leaves ?? [],
      cv: e.first
        ? `A varies by ${e.first.largestCvPct.toFixed(0)}% at most in the downswing, ${e.first.meanCvPct.toFixed(0)}% on average`
        : '',
    }
  }),
)
const marks = [
  [0, 'takeaway'],
  [100, 'top'],
  [200, 'impact'],
] as const
</script>

<template>
  <div class="row spread">
    <h1>Swings over each other</h1>
    <div class="row">
      <span v-if="isFetching" class="small quiet" role="status">Laying them over each other …</span>
      <v-btn size="small" :aria-pressed="cv" @click="cv = !cv">Within-golfer CV</v-btn>
      <v-btn size="small" @click="svg && saveSvg(svg, 'swings')">SVG</v-btn>
      <v-btn size="small" @click="svg && savePng(svg, 'swings')">PNG</v-btn>
    </div>
  </div>
  <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
  <template v-if="data">
    <p class="small" data-testid="overlay-sets">
      <i class="k" /> A: {{ data.first
      }}<template v-if="data.second"> <i class="k dashed" /> B: {{ data.second }}</template
      >. Band: one standard deviation. Thin line beneath: B less A; boxed where it leaves A’s band.
    </p>
    <svg
      ref="svg"
      :viewBox="`0 0 ${W} ${H}`"
      class="overlay"
      role="img"
      aria-label="Mean efforts from takeaway to after impact"
    >
      <g v-for="p in panels" :key="p.name">
        <rect
          v-for="l in p.leaves"
          :key="l.from"
          :x="x(l.from)"
          :width="x(l.to) - x(l.from)"
          :y="p.zero - 14"
          height="28"
          class="leave"
        />
        <path :d="p.band[0]" class="band" />
        <path :d="p.band[1]" class="band second" />
        <g v-for="t in p.yTicks" :key="t">
          <line :x1="left" :x2="W - 10" :y1="p.y(t)" :y2="p.y(t)" class="grid" />
          <text :x="left - 5" :y="p.y(t) + 4" text-anchor="end">{{ signed(t, 1) }}</text>
        </g>
        <text :x="left + 4" :y="p.top + 2" class="title">{{ p.name }}, {{ p.unit }}</text>
        <path :d="p.line[0]" class="mean" />
        <path :d="p.line[1]" class="mean dashed" />
        <line v-if="p.difference" :x1="left" :x2="W - 10" :y1="p.zero" :y2="p.zero" class="grid" />
        <path :d="p.difference" class="difference" />
      </g>
      <g v-for="[i, name] in marks" :key="i">
        <line :x1="x(i)" :x2="x(i)" y1="16" :y2="H - 8" class="grid" />
        <text :x="x(i)" y="12" :text-anchor="i ? 'middle' : 'start'">{{ name }}</text>
      </g>
    </svg>
    <ul class="small">
      <li v-for="p in panels" :key="p.name">
        {{ p.name }}:
        {{
          p.leaves.length
            ? 'B leaves A’s band ' + p.leaves.map((l) => l.text).join(', ')
            : data.second
              ? 'B stays in A’s band'
              : 'one set'
        }}.
        <template v-if="cv">{{ p.cv }}.</template>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.overlay {
  width: 100%;
  display: block;
}
.band {
  fill: rgb(var(--v-theme-primary));
  fill-opacity: 0.22;
}
.band.second {
  fill: rgb(var(--v-theme-action));
  fill-opacity: 0.16;
}
.mean {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.mean.dashed {
  stroke: rgb(var(--v-theme-action));
  stroke-dasharray: 6 4;
}
.difference {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1;
}
.leave {
  fill: none;
  stroke: rgb(var(--v-theme-warning));
}
.grid {
  stroke: rgba(var(--v-theme-on-surface), 0.16);
}
.k {
  display: inline-block;
  width: 24px;
  border-top: 2px solid rgb(var(--v-theme-primary));
  vertical-align: middle;
  margin: 0 4px 0 8px;
}
.k.dashed {
  border-top-style: dashed;
  border-color: rgb(var(--v-theme-action));
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
.title {
  font-weight: 650;
}
</style>
