<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { useSession } from '@/api/queries'
import { fromShown, toShown } from '@/parts/speed'
import { useRadar } from '@/views/speed/useRadar'
import { useSeries } from '@/views/speed/useSeries'
import { useSpeedPage } from '@/views/speed/useSpeed'

import type { Piece, Step } from './log'

/** The swings of a set: heard by the radar or typed, the last one very large, with the line that ends the set. */
type Made = { mps: number; other?: boolean; void?: boolean }
const made = defineModel<Made[]>({ required: true })
const props = defineProps<{ athleteId: string; session: string; piece: Piece; step: Step; title: string }>()

const { data: me } = useSession()
const unit = computed(() => me.value?.units.speed ?? 'mph')
const { data: page } = useSpeedPage(() => props.athleteId)
const series = useSeries(props.athleteId, () => undefined)
const kept = `dunnock.series.${props.session}`

/** The club that is swung: the own driver, or what weighs as the dose says. */
const implement = computed(() => {
  const p = props.piece.series
  const own = page.value?.own
  if (!p?.implementPercent || !own) return own?.id ?? 'driver'
  const wanted = p.implementG ?? own.massG * (1 + p.implementPercent / 100)
  const near = page.value?.implements
    .map((i) => ({ id: i.id, off: Math.abs(i.massG - wanted) }))
    .sort((a, b) => a.off - b.off)[0]
  return near && near.off < 0.1 * wanted ? near.id : own.id
})
const intent = computed(() => {
  const i = props.piece.series?.intentPercent ?? 100
  return i >= 90 ? 'full' : i >= 80 ? 'cruise' : 'easy'
})
const other = ref(false)
watch(
  () => [props.step.item, props.step.number],
  () => {
    other.value = (props.step.playing ?? 0) === 0 && (props.step.other ?? 0) > 0
  },
  { immediate: true },
)
const counted = computed(() => made.value.filter((m) => !m.void))
const wanted = computed(() => (props.step.playing ?? 0) + (props.step.other ?? 0))
watch(
  () => counted.value.filter((m) => !m.other).length,
  (n) => {
    if ((props.step.other ?? 0) > 0 && n >= (props.step.playing ?? 0)) other.value = true
  },
)

const impossible = ref('')
const radar = useRadar(
  (mps, seen) => add(mps, seen),
  (mps) => {
    impossible.value = `The radar said ${toShown(mps, unit.value).toFixed(1)} ${unit.value}: no club moves so. It was left out.`
  },
)
function add(mps: number, seen: object = {}) {
  impossible.value = ''
  made.value = [...made.value, { mps: Math.round(mps * 10_000) / 10_000, ...(other.value ? { other: true } : {}) }]
  if (!series.begun.value) {
    const id = sessionStorage.getItem(kept)
    if (id) series.begun.value = { id, kind: 'training', before: props.title, raised: true }
    else series.begin('training', props.title, true)
    if (series.begun.value) sessionStorage.setItem(kept, series.begun.value.id)
  }
  series.add(
    {
      implement: implement.value,
      side: other.value ? 'other' : 'playing',
      intent: intent.value,
      set: Math.max(1, props.step.number),
      drill: '',
    },
    mps,
    seen,
  )
}
function voidLast() {
  const at = made.value.length - 1
  const last = made.value[at]
  if (!last) return
  made.value = [...made.value.slice(0, at), { ...last, void: !last.void }]
  const s = series.last.value
  if (s) series.change(s, { void: last.void ? '' : 'slip' })
}
const text = ref('')
function type() {
  const v = Number(text.value.replace(',', '.'))
  if (!Number.isFinite(v) || v <= 0) return
  const mps = fromShown(v, unit.value)
  if (mps < 10 || mps > 75) {
    impossible.value = `${text.value} ${unit.value} is no club speed.`
    return
  }
  text.value = ''
  add(mps)
}
const last = computed(() => made.value.at(-1))
const stop = computed(() =>
  series.server.value?.stops.find(
    (s) =>
      s.implement === implement.value && s.side === (other.value ? 'other' : 'playing') && s.intent === intent.value,
  ),
)
const says = computed(() => {
  if (impossible.value) return impossible.value
  if (stop.value?.dayEnded) return 'Enough for today with this one: two sets ended slow.'
  if (stop.value?.setEnded) return 'End the set: two running below the line.'
  if (stop.value?.below) return 'Below the line once.'
  if (stop.value && stop.value.lineMps > 0)
    return `Line ${toShown(stop.value.lineMps, unit.value).toFixed(1)} ${unit.value}`
  return radar.text.value
})
const alarm = computed(() => stop.value?.setEnded === true || stop.value?.dayEnded === true)
const high = computed(() => Math.max(...made.value.map((m) => m.mps), stop.value?.referenceMps ?? 0, 1))
</script>

<template>
  <section class="swings" aria-label="Swings of the set">
    <div class="last" aria-live="polite">
      <template v-if="last">
        <span class="speed num" :class="{ void: last.void, alarm }" data-testid="floor-speed">{{
          toShown(last.mps, unit).toFixed(1)
        }}</span>
        <span class="unit">{{ unit }}</span>
      </template>
      <span class="count num">{{ counted.length }} of {{ wanted }}</span>
    </div>
    <div v-if="made.length" class="bars" aria-hidden="true">
      <i
        v-for="(m, i) in made"
        :key="i"
        :class="{ void: m.void, other: m.other }"
        :style="{ height: `${Math.max(8, 100 * (m.mps / high - 0.7) * (1 / 0.3))}%` }"
      />
      <b
        v-if="stop && stop.lineMps > 0"
        class="line"
        :style="{ bottom: `${Math.max(0, 100 * (stop.lineMps / high - 0.7) * (1 / 0.3))}%` }"
      />
    </div>
    <p class="says" :class="{ alarm }" role="status">{{ says }}</p>
    <div class="keys">
      <v-btn
        v-if="radar.state.value === 'idle' || radar.state.value === 'lost' || radar.state.value === 'ended'"
        size="large"
        variant="outlined"
        @click="radar.listen()"
        >Listen to the radar</v-btn
      >
      <v-btn v-else size="large" variant="outlined" @click="radar.stop()">Stop listening</v-btn>
      <v-btn size="large" variant="outlined" :disabled="!made.length" @click="voidLast">{{
        last?.void ? 'It counts' : 'Void the last'
      }}</v-btn>
      <v-btn size="large" variant="outlined" :aria-pressed="other" @click="other = !other">{{
        other ? 'Other side' : 'Playing side'
      }}</v-btn>
    </div>
    <form class="type" @submit.prevent="type">
      <v-text-field v-model="text" :label="`Speed, ${unit}`" inputmode="decimal" />
      <v-btn type="submit" size="large" variant="outlined">Add</v-btn>
    </form>
  </section>
</template>

<style scoped>
.swings {
  display: grid;
  gap: 6px;
}
.last {
  display: flex;
  align-items: baseline;
  justify-content: center;
  gap: 8px;
}
.speed {
  font-size: clamp(72px, 20vw, 120px);
  font-weight: 650;
  line-height: 1;
}
.speed.void {
  text-decoration: line-through;
  opacity: 0.6;
}
.alarm {
  color: rgb(var(--v-theme-error));
  font-weight: 650;
}
.unit,
.count {
  font-size: 20px;
}
.bars {
  position: relative;
  height: 44px;
  display: flex;
  align-items: end;
  gap: 3px;
}
.bars i {
  flex: 1;
  max-width: 26px;
  background: rgb(var(--v-theme-primary));
}
.bars i.other {
  background: none;
  border: 2px solid rgb(var(--v-theme-primary));
}
.bars i.void {
  opacity: 0.3;
}
.bars .line {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 2px solid rgb(var(--v-theme-error));
}
.says {
  font-size: 18px;
  text-align: center;
  min-height: 1.4em;
  margin: 0;
}
.keys {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
.keys .v-btn {
  flex: 1 1 auto;
  font-size: 18px;
}
.type {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px;
}
</style>
