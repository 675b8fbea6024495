<script setup lang="ts">
import { computed, watch } from 'vue'

import { useLivePlates } from '@/views/force/useLivePlates'
import { useLiveGrip } from '@/views/screen/useLiveGrip'

import Stepper from '@/parts/Stepper.vue'

/** What an instrument measures of a set: the best squeeze in kg, or the highest jump in cm. It may be typed too. */
const value = defineModel<number | undefined>({ required: true })
const props = defineProps<{ kind: 'grip' | 'jump'; athleteId: string }>()
const grip = useLiveGrip()
const plates = useLivePlates()
const round = (v: number) => Math.round(v * 10) / 10

watch(grip.squeezes, (list) => {
  const best = Math.max(0, ...list.map((s) => s.peak))
  if (best > 0) value.value = round(Math.max(value.value ?? 0, best))
})
watch(plates.captured, (list) => {
  const best = Math.max(0, ...list.map((r) => (r.jump?.jumpHeightM ?? 0) * 100))
  if (best > 0) value.value = round(Math.max(value.value ?? 0, best))
})
const listening = computed(() =>
  props.kind === 'grip'
    ? ['waiting', 'live'].includes(grip.state.value)
    : !['idle', 'lost', 'ended'].includes(plates.state.value),
)
const says = computed(() =>
  props.kind === 'grip' ? grip.text.value : plates.text.value || (plates.state.value === 'armed' ? 'Ready.' : ''),
)
function toggle() {
  if (props.kind === 'grip') {
    if (listening.value) grip.stop()
    else grip.start()
  } else if (listening.value) plates.stop()
  else plates.arm(props.athleteId, 'jump')
}
</script>

<template>
  <div class="instrument">
    <Stepper
      v-model="value"
      :label="props.kind === 'grip' ? 'Squeezed' : 'Highest jump'"
      :unit="props.kind === 'grip' ? 'kg' : 'cm'"
      :step="props.kind === 'grip' ? 0.5 : 0.5"
      :max="150"
    />
    <v-btn size="large" variant="outlined" @click="toggle">{{
      listening ? 'Stop' : props.kind === 'grip' ? 'Dynamometer' : 'Force plates'
    }}</v-btn>
    <span class="small quiet" role="status">{{ says }}</span>
  </div>
</template>

<style scoped>
.instrument {
  display: grid;
  gap: 4px;
}
</style>
