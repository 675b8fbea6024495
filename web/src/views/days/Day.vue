<script setup lang="ts">
import { useNow } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { useMeta, useSession } from '@/api/queries'
import { longDay } from '@/parts/days'
import { LateDialog } from '@/parts/late'
import { useTurns } from '@/parts/turns'
import RunningOrder from '@/plots/RunningOrder.vue'

import { planWords, useDay, useDeleteDay } from './useDays'

const props = defineProps<{ dayId: string }>()
const router = useRouter()
const { data: day, error } = useDay(() => props.dayId)
const { data: meta } = useMeta()
const { data: session } = useSession()
/** Heading, running order, stations: drawn one after the other. */
const drawn = useTurns(() => (day.value ? 3 : 0))
const remove = useDeleteDay()
const removing = ref(false)
const names = computed(() => new Map((meta.value?.tests ?? []).map((t) => [t.id, t.name])))
const clock = useNow({ interval: 20_000 })
/** Minutes since the start, on the day itself. */
const now = computed(() => {
  if (!day.value || day.value.date !== session.value?.today) return undefined
  const [h = 0, m = 0] = day.value.start.split(':').map(Number)
  const t = clock.value.getHours() * 60 + clock.value.getMinutes() - (h * 60 + m)
  return t >= 0 && t <= day.value.plan.minutes ? t : undefined
})
const print = () => window.print()
const drop = () => remove.mutate(props.dayId, { onSuccess: () => void router.push({ name: 'days' }) })
</script>

<template>
  <div class="sheet">
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <template v-if="day">
      <div class="row spread">
        <h1>{{ day.name }}, {{ longDay(day.date) }} {{ day.start }}</h1>
        <div class="row no-print">
          <v-btn size="small" @click="print">Print</v-btn>
          <v-btn size="small" @click="removing = true">Delete this day…</v-btn>
        </div>
      </div>
      <p>{{ planWords(day) }}</p>
      <RunningOrder v-if="drawn > 1" :day="day" :now="now" />
      <template v-if="drawn > 2">
        <h2 class="gap">Stations</h2>
        <ul class="stations">
          <li v-for="(s, i) in day.stations" :key="s.name">
            <v-btn
              variant="outlined"
              size="large"
              class="go"
              :to="{ name: 'station', params: { dayId: props.dayId, station: i } }"
              ><span aria-hidden="true">{{ i + 1 }}&nbsp;</span>{{ s.name }}</v-btn
            >
            <span class="small"
              >{{ s.minutes }} min a golfer, {{ s.places === 1 ? 'one place' : `${s.places} places` }} ·
              {{ s.tests.map((t) => names.get(t) ?? t).join(', ') }}</span
            >
          </li>
        </ul>
        <p class="small quiet">
          Before jumps, throws and swings: nobody behind or inside the circle, dry even floor, wall or net rated for the
          throws. What tires comes last; a golfer who is not cleared leaves out what costs effort.
        </p>
      </template>
    </template>
    <LateDialog v-model="removing" max-width="400">
      <div class="box">
        <h2>Delete this day?</h2>
        <p>The running order is gone; every result written down stays with its golfer.</p>
        <p v-if="remove.error.value" class="stop" role="alert">{{ remove.error.value.message }}</p>
        <div class="row">
          <v-btn color="error" variant="flat" @click="drop">Delete</v-btn>
          <v-btn @click="removing = false">Keep</v-btn>
        </div>
      </div>
    </LateDialog>
  </div>
</template>

<style scoped>
.gap {
  margin-top: 18px;
}
.stations {
  list-style: none;
  padding: 0;
}
.stations li {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 4px 0;
}
.go {
  min-width: 150px;
  min-height: 44px;
}
</style>
