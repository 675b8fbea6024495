<script setup lang="ts">
import { computed, ref } from 'vue'

import { choices } from '@/parts/choices'

import type { Request } from './useWarmUp'
import FormGrid from '@/parts/FormGrid.vue'
import { InTurns } from '@/parts/InTurns'
import SelectField from '@/parts/SelectField.vue'

/** What a warm-up is asked for: first what is asked every time, the rest behind one click. */
const request = defineModel<Request>({ required: true })
const props = defineProps<{ group: boolean }>()

const more = ref(false)
const purposes = choices<Request['purpose']>(
  ['tee', 'the first tee'],
  ['range', 'the range'],
  ['training', 'training'],
  ['strength', 'a strength session'],
  ['after', 'after the round'],
)
const places = choices<Request['place']>(
  ['tee', 'by the tee'],
  ['car-park', 'car park'],
  ['range', 'range'],
  ['gym', 'gym'],
)
const clubs = choices<NonNullable<Request['clubs']>>(['', 'own driver'], ['irons', 'irons only'], ['none', 'no club'])
function set(what: Partial<Request>) {
  request.value = { ...request.value, ...what }
}
const number = (v: string | number | null) => (v === '' || v === null ? undefined : Number(v))
function opt<K extends keyof Request>(key: K, v: Request[K] | undefined) {
  request.value = { ...request.value, [key]: v }
}
const ready = computed(() => request.value.readiness ?? {})
function answer(what: Partial<NonNullable<Request['readiness']>>) {
  opt('readiness', { ...ready.value, ...what })
}
type Pain = NonNullable<NonNullable<Request['readiness']>['pain']>[number]
const pains = computed(() => ready.value.pain ?? [])
const regions = [
  ['lumbar-spine', 'lower back'],
  ['thoracic-spine', 'upper back'],
  ['neck', 'neck'],
  ['shoulder', 'shoulder'],
  ['elbow', 'elbow'],
  ['wrist-hand', 'wrist or hand'],
  ['hip', 'hip'],
  ['knee', 'knee'],
  ['ankle-foot', 'ankle or foot'],
].map(([value, title]) => ({ value, title }))
/** The regions that do not hurt yet, and the one of a row. */
const left = (own?: string) => regions.filter((r) => r.value === own || !pains.value.some((p) => p.region === r.value))
const hurts = (at: number, what: Partial<Pain>) =>
  answer({ pain: pains.value.map((p, i) => (i === at ? { ...p, ...what } : p)) })
const another = (region: string | null) => {
  if (region) answer({ pain: [...pains.value, { region, level: 2 }] })
}
</script>

<template>
  <div class="form">
    <div class="row first">
      <InTurns :place="40">
        <SelectField
          class="field"
          :model-value="request.purpose"
          :items="purposes"
          label="Before"
          @update:model-value="(v: Request['purpose']) => set({ purpose: v })"
        />
        <div class="minutes" role="group" aria-label="Minutes">
          <v-btn size="small" aria-label="A minute less" @click="set({ minutes: Math.max(1, request.minutes - 1) })"
            >−</v-btn
          >
          <span class="num" data-testid="minutes">{{ request.minutes }} min</span>
          <v-btn size="small" aria-label="A minute more" @click="set({ minutes: Math.min(40, request.minutes + 1) })"
            >+</v-btn
          >
        </div>
        <SelectField
          class="field"
          :model-value="request.place"
          :items="places"
          label="Where"
          @update:model-value="(v: Request['place']) => set({ place: v, floor: v === 'gym' })"
        />
        <v-text-field
          v-if="request.purpose === 'tee'"
          class="short"
          :model-value="request.tee ?? ''"
          label="Tee time"
          type="time"
          hide-details
          @update:model-value="(v: string) => opt('tee', v || undefined)"
        />
        <v-text-field
          v-if="request.purpose === 'tee'"
          class="short"
          :model-value="request.walk ?? 0"
          label="Walk, min"
          type="number"
          min="0"
          hide-details
          @update:model-value="(v: string) => opt('walk', number(v))"
        />
        <v-btn size="small" :aria-expanded="more" @click="more = !more">{{ more ? 'Less' : 'More' }}</v-btn>
      </InTurns>
    </div>
    <FormGrid v-if="more">
      <SelectField
        :model-value="request.clubs ?? ''"
        :items="clubs"
        label="Clubs"
        @update:model-value="(v: '' | 'irons' | 'none') => opt('clubs', v)"
      />
      <v-text-field
        :model-value="request.celsius ?? ''"
        label="Outside, °C"
        type="number"
        @update:model-value="(v: string) => opt('celsius', number(v))"
      />
      <v-text-field
        :model-value="request.ceilingM || ''"
        label="Ceiling, m"
        type="number"
        step="0.1"
        @update:model-value="(v: string) => opt('ceilingM', number(v))"
      />
      <v-text-field
        :model-value="request.clearM || ''"
        label="Free all round, m"
        type="number"
        step="0.1"
        @update:model-value="(v: string) => opt('clearM', number(v))"
      />
      <v-text-field
        v-if="request.purpose === 'tee'"
        :model-value="request.wait ?? 0"
        label="Wait on the tee, min"
        type="number"
        min="0"
        @update:model-value="(v: string) => opt('wait', number(v))"
      />
      <v-checkbox
        :model-value="request.floor ?? false"
        label="One may lie down"
        hide-details
        @update:model-value="(v: boolean | null) => opt('floor', v === true)"
      />
      <v-checkbox
        v-if="request.purpose === 'range'"
        :model-value="request.balls ?? false"
        label="With balls"
        hide-details
        @update:model-value="(v: boolean | null) => opt('balls', v === true)"
      />
      <v-checkbox
        v-if="request.purpose === 'training'"
        :model-value="request.fastFollows ?? false"
        label="Fast swings follow"
        hide-details
        @update:model-value="(v: boolean | null) => opt('fastFollows', v === true)"
      />
      <v-checkbox
        :model-value="request.seated ?? false"
        label="Start seated"
        hide-details
        @update:model-value="(v: boolean | null) => opt('seated', v === true)"
      />
      <v-checkbox
        v-if="request.purpose === 'range' || request.purpose === 'training'"
        :model-value="request.drills ?? false"
        label="Drill rounds"
        hide-details
        @update:model-value="(v: boolean | null) => opt('drills', v === true)"
      />
      <v-checkbox
        :model-value="!(request.withoutHeavy ?? false)"
        label="Heavy implement early"
        hide-details
        @update:model-value="(v: boolean | null) => opt('withoutHeavy', v !== true)"
      />
      <template v-if="!props.group">
        <h3 class="wide">Today</h3>
        <SelectField
          :model-value="ready.illness ?? ''"
          :items="choices(['', 'not ill'], ['cold', 'a cold'], ['fever', 'fever, chest or gut'])"
          label="Ill"
          @update:model-value="(v: '' | 'cold' | 'fever') => answer({ illness: v })"
        />
        <SelectField
          :model-value="ready.sleep ?? ''"
          :items="choices(['', '7 hours or more'], ['short', '5 to 7 hours'], ['bad', 'under 5 hours'])"
          label="Sleep"
          @update:model-value="(v: '' | 'short' | 'bad') => answer({ sleep: v })"
        />
        <SelectField
          :model-value="ready.soreness ?? ''"
          :items="choices(['', 'none'], ['some', 'some'], ['strong', 'strong'], ['too-sore', 'too sore to swing'])"
          label="Sore"
          @update:model-value="(v: '' | 'some' | 'strong' | 'too-sore') => answer({ soreness: v })"
        />
        <SelectField
          :model-value="ready.eagerness ?? ''"
          :items="choices(['', 'as usual'], ['low', 'low'], ['high', 'high'])"
          label="Eager"
          @update:model-value="(v: '' | 'low' | 'high') => answer({ eagerness: v })"
        />
        <div v-for="(p, i) in pains" :key="p.region" class="pain wide">
          <SelectField
            :model-value="p.region"
            :items="left(p.region)"
            label="Hurts"
            @update:model-value="(v: string) => hurts(i, { region: v })"
          />
          <v-text-field
            :model-value="p.level"
            label="How much, 0 to 10"
            type="number"
            min="0"
            max="10"
            hide-details
            @update:model-value="(v: string) => hurts(i, { level: Number(v) || 0 })"
          />
          <label class="small"
            ><input type="checkbox" :checked="p.rising" @change="hurts(i, { rising: !p.rising })" /> rising</label
          >
          <label class="small"
            ><input type="checkbox" :checked="p.numb" @change="hurts(i, { numb: !p.numb })" /> numb or tingling</label
          >
          <v-btn
            size="small"
            :aria-label="`No pain: ${regions.find((r) => r.value === p.region)?.title}`"
            @click="answer({ pain: pains.filter((_, k) => k !== i) })"
            >Take out</v-btn
          >
        </div>
        <SelectField
          :key="pains.length"
          :model-value="null"
          :items="left()"
          :label="pains.length ? 'Hurts too' : 'Hurts'"
          @update:model-value="another"
        />
      </template>
    </FormGrid>
  </div>
</template>

<style scoped>
.form {
  margin-top: 14px;
}
.first {
  align-items: center;
  gap: 14px;
}
.field {
  max-width: 165px;
  min-width: 140px;
}
.short {
  max-width: 128px;
}
.pain {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.pain > :first-child {
  min-width: 160px;
}
.minutes {
  display: flex;
  align-items: center;
  gap: 4px;
  font-size: 18px;
  font-weight: 650;
}
@media (pointer: coarse) {
  .minutes .v-btn {
    min-height: 44px;
    min-width: 44px;
  }
}
</style>
