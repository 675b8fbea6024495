<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'

import KindChoice from './KindChoice.vue'
import { flagWords, type Recording, useForceEdits } from './useForce'
import { asks, useLivePlates } from './useLivePlates'

/** Live capture: arm, let the golfer jump or swing, keep or discard each trial. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golfer: Schemas['Athlete'] }>()
const emit = defineEmits<{ shown: [id: string] }>()

const live = useLivePlates()
const { state, text, device, forceN, trace, captured, refused, health } = live
const { change, remove } = useForceEdits(() => props.golfer.id)
const kind = ref<'jump' | 'squat' | 'swing'>('jump')
const kept = ref<Recording[]>([])
const problem = ref('')
const armed = computed(() => !['idle', 'lost', 'ended'].includes(state.value))

watch(open, (is) => {
  if (is) {
    live.clear()
    kept.value = []
    problem.value = ''
  } else {
    live.stop()
    for (const r of captured.value) remove.mutate(r.id) // nobody kept them
    live.clear()
  }
})
watch(kind, () => {
  if (armed.value) live.arm(props.golfer.id, kind.value)
})
async function keep(r: Recording) {
  problem.value = ''
  try {
    kept.value = [...kept.value, await change.mutateAsync({ id: r.id, keep: true })]
    live.drop(r.id)
  } catch (e) {
    problem.value = (e as Error).message
  }
}
async function discard(r: Recording) {
  live.drop(r.id)
  await remove.mutateAsync(r.id)
}
const W = 700
const H = 150
const top = computed(() => Math.max(1200, ...trace.value) * 1.08)
const path = computed(() =>
  trace.value
    .map(
      (v, i) =>
        `${((i / Math.max(1, trace.value.length - 1)) * W).toFixed(1)},${(H - (Math.max(0, v) / top.value) * H).toFixed(1)}`,
    )
    .join(' '),
)
const flags = (r: Recording) => (r.jump ?? r.swing)?.flags.map((f) => flagWords[f] ?? f).join(', ') ?? ''
</script>

<template>
  <v-dialog v-model="open" max-width="760">
    <div class="box">
      <div class="row spread">
        <h2>Record live, {{ props.golfer.profile.name }}</h2>
        <span class="big num">{{ forceN.toFixed(0) }} N</span>
      </div>
      <div class="row small">
        <KindChoice v-model="kind" name="live-kind" />
        <v-btn v-if="!armed" variant="flat" color="action" size="small" @click="live.arm(props.golfer.id, kind)"
          >Arm</v-btn
        >
        <v-btn v-else size="small" @click="live.stop()">Stop</v-btn>
        <span class="quiet">{{ device }}</span>
      </div>
      <p class="ask" aria-live="polite" data-testid="plates-state">{{ text || asks[state] }}</p>
      <svg :viewBox="`0 0 ${W} ${H}`" class="trace" role="img" aria-label="Vertical force of the last seconds">
        <line x1="0" :x2="W" :y1="H - 0.5" :y2="H - 0.5" class="zero" />
        <text x="4" y="14">{{ Math.round(top / 100) * 100 }} N</text>
        <text :x="W - 4" y="14" text-anchor="end">last 4 s</text>
        <polyline :points="path" />
      </svg>
      <p v-if="health.length" class="attention small">
        On the line: {{ health.join(', ') }}. What can be used is used.
      </p>
      <p v-for="(r, i) in refused" :key="i" class="attention small">A trial could not be read: {{ r }}</p>
      <p v-if="problem" class="stop small" role="alert">{{ problem }}</p>
      <table class="small">
        <tbody>
          <tr v-for="r in captured" :key="r.id" data-testid="captured">
            <td>{{ r.verdict }}</td>
            <td class="attention">{{ flags(r) }}</td>
            <td class="row">
              <v-btn size="small" variant="flat" color="action" @click="keep(r)">Keep</v-btn>
              <v-btn size="small" @click="discard(r)">Discard</v-btn>
            </td>
          </tr>
          <tr v-for="r in kept" :key="r.id" data-testid="kept">
            <td>{{ r.verdict }}</td>
            <td class="good">kept</td>
            <td><v-btn size="small" @click="(emit('shown', r.id), (open = false))">Look at it</v-btn></td>
          </tr>
        </tbody>
      </table>
      <p v-if="!captured.length && !kept.length" class="small quiet">
        {{
          kind === 'swing'
            ? 'Armed, a swing is taken by its impact channel: three seconds before and a little after.'
            : kind === 'squat'
              ? 'Sit into the jump and hold still; when it says “Ready.”, jump without dipping first.'
              : 'Stand still until it says “Ready.”, then jump. A jump is noticed when both feet leave the plates.'
        }}
      </p>
      <div class="row"><v-btn @click="open = false">Close</v-btn></div>
    </div>
  </v-dialog>
</template>

<style scoped>
.big {
  font-size: 2rem;
  font-weight: 650;
}
.ask {
  font-size: 1.5rem;
  margin: 0;
  min-height: 1.4em;
}
.trace {
  width: 100%;
  background: rgb(var(--v-theme-background));
}
.zero {
  stroke: rgba(var(--v-theme-on-surface), 0.4);
}
polyline {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.8;
}
text {
  font-size: var(--small);
  fill: currentcolor;
}
td {
  padding: 2px 14px 2px 0;
}
</style>
