<script setup lang="ts">
import { computed, reactive, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useAthlete, useMeta, useSaveAthlete } from '@/api/queries'
import { weekdays } from '@/parts/choices'
import KitPlaces from '@/parts/KitPlaces.vue'
import { changeOf } from '@/views/intake/change'

/** What a first draft would have to assume, asked where it would be. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ athleteId: string }>()
const emit = defineEmits<{ draft: [] }>()

const { data: golfer } = useAthlete(() => props.athleteId)
const { data: meta } = useMeta()
const save = useSaveAthlete(() => props.athleteId)
interface Said {
  days: string[]
  minutes?: number | undefined
  months?: number | undefined
  /** Undefined until it is said: nothing at all may be what is there. */
  kit?: string[] | undefined
}
const form = reactive<Said>({ days: [] })
watch(
  [open, golfer],
  ([is, g]) => {
    if (!is || !g) return
    Object.assign(form, {
      days: [...g.training.days],
      minutes: g.training.minutes || undefined,
      months: g.profile.trainingMonths || undefined,
      kit: g.training.kit.length ? [...g.training.kit] : undefined,
    })
  },
  { immediate: true },
)
/** What is taken for a fact that is not given; undefined where it is. */
const taken = computed(() => Object.fromEntries(golfer.value?.assumed.map((a) => [a.fact, a.taken]) ?? []))
function toggle(day: string) {
  const at = form.days.indexOf(day)
  if (at < 0) form.days.push(day)
  else form.days.splice(at, 1)
}
async function draft() {
  const g = golfer.value
  if (!g) return
  const change = changeOf(g)
  change.profile.trainingMonths = form.months || 0
  change.training = {
    ...change.training,
    days: form.days as Schemas['Training']['days'],
    minutes: form.minutes || 0,
    kit: form.kit ?? [],
  }
  await save.mutateAsync(change)
  open.value = false
  emit('draft')
}
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-label="Before it is drafted">
    <form class="box" @submit.prevent="draft">
      <h2>Before it is drafted</h2>
      <p class="small">Not said yet. What stays open is assumed, and the programme says so.</p>
      <fieldset v-if="taken.days">
        <legend>
          Days that can be trained on <span class="quiet">(open: {{ taken.days }})</span>
        </legend>
        <div class="row">
          <v-btn
            v-for="d in weekdays"
            :key="d.value"
            size="small"
            variant="outlined"
            :class="{ on: form.days.includes(d.value) }"
            :aria-pressed="form.days.includes(d.value)"
            @click="toggle(d.value)"
            >{{ d.title }}</v-btn
          >
        </div>
      </fieldset>
      <v-text-field
        v-if="taken.minutes"
        v-model.number="form.minutes"
        :label="`Minutes a session (open: ${taken.minutes})`"
        type="number"
        min="0"
        max="150"
      />
      <v-text-field
        v-if="taken.months"
        v-model.number="form.months"
        :label="`Months of regular strength training (open: ${taken.months})`"
        type="number"
        min="0"
      />
      <fieldset v-if="taken.kit">
        <legend>
          Kit at hand <span class="quiet">(open: {{ taken.kit }}; piece by piece in Intake)</span>
        </legend>
        <KitPlaces v-model="form.kit" :places="meta?.places ?? []" />
      </fieldset>
      <p v-if="save.error.value" class="stop" role="alert">{{ save.error.value.message }}</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :loading="save.isPending.value">Draft the programme</v-btn>
        <v-btn @click="open = false">Not yet</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 14px;
}
legend {
  margin-bottom: 6px;
}
.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
</style>
