<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { type ApiError, api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useSquad } from '@/api/queries'
import { useFew } from '@/parts/few'
import FewSearch from '@/parts/FewSearch.vue'
import { addDays } from '@/parts/days'

import { named } from '../squad/named'
import ClassSheet from './ClassSheet.vue'
import FormGrid from '@/parts/FormGrid.vue'

/** A class: who is there, how long, and the stations that follow. It is laid out as it is being asked for. */
const router = useRouter()
const client = useQueryClient()
const { data: squad } = useSquad()
const { data: page } = useQuery({ queryKey: keys.today(), queryFn: () => must(api.GET('/today')) })
const today = computed(() => page.value?.date ?? squad.value?.today ?? '')
/** Whose season has a class on the day. */
const fixed = computed(
  () =>
    page.value?.days
      .find((d) => d.date === date.value)
      ?.notes.filter((n) => n.kind === 'mark' && n.text.startsWith('class'))
      .map((n) => n.athleteId) ?? [],
)
const date = ref('')
watch(today, (t) => (date.value ||= t), { immediate: true })
const name = ref('Class')
const start = ref('17:30')
const minutes = ref(60)
const coaches = ref(1)
const room = ref(false)
/** The same class again: for so many weeks, and a second time so many days later. */
const weeks = ref(1)
const later = ref(0)
const picked = ref(named(useRoute().query.golfers))
const few = useFew(
  () => squad.value?.athletes ?? [],
  () => picked.value,
)
const body = (dry: boolean, on = date.value): Schemas['ClassRequest'] => ({
  date: on,
  name: name.value,
  start: start.value,
  athletes: picked.value,
  minutes: minutes.value,
  coaches: coaches.value,
  room: room.value,
  dry,
})
const plan = useMutation({
  mutationFn: (o: { dry: boolean; on?: string }) => must(api.POST('/classes', { body: body(o.dry, o.on) })),
})
const view = ref<Schemas['ClassView']>()
const wrong = ref('')
let timer: ReturnType<typeof setTimeout> | undefined
watch([picked, minutes, coaches, room, date], () => {
  clearTimeout(timer)
  timer = setTimeout(async () => {
    if (picked.value.length < 2) {
      view.value = undefined
      wrong.value = ''
      return
    }
    try {
      view.value = await plan.mutateAsync({ dry: true })
      wrong.value = ''
    } catch (e) {
      view.value = undefined
      wrong.value = (e as ApiError).message
    }
  }, 350)
})
const made = ref(0)
async function make() {
  made.value = 0
  try {
    let first = ''
    for (let w = 0; w < Math.min(26, Math.max(1, weeks.value)); w++) {
      for (const d of later.value > 0 ? [0, later.value] : [0]) {
        const one = await plan.mutateAsync({ dry: false, on: addDays(date.value, 7 * w + d) })
        made.value++
        first ||= one.id
      }
    }
    await client.invalidateQueries({ queryKey: keys.today() })
    await router.push({ name: 'class', params: { classId: first } })
  } catch (e) {
    wrong.value = `${made.value ? `${made.value} classes are made; the next is not: ` : ''}${(e as ApiError).message}`
  }
}
function toggle(id: string) {
  picked.value = picked.value.includes(id) ? picked.value.filter((x) => x !== id) : [...picked.value, id]
}
</script>

<template>
  <div class="sheet plan">
    <h1>Plan a class</h1>
    <FormGrid>
      <v-text-field v-model="name" label="Name" maxlength="120" />
      <v-text-field v-model="date" label="Day" type="date" />
      <v-text-field v-model="start" label="Starts at" type="time" />
      <v-text-field v-model.number="minutes" label="Minutes" type="number" min="20" max="180" />
      <v-text-field v-model.number="coaches" label="Coaches" type="number" min="1" max="20" />
      <v-text-field v-model.number="weeks" label="For how many weeks" type="number" min="1" max="26" />
      <v-text-field
        v-model.number="later"
        label="Again in the week, days later"
        type="number"
        min="0"
        max="6"
        hint="0: once a week"
      />
      <v-checkbox v-model="room" label="There is room and a ceiling to swing" />
    </FormGrid>
    <fieldset class="who">
      <legend>Who is there ({{ picked.length }})</legend>
      <FewSearch v-if="few.many.value" v-model="few.text.value" :more="few.more.value" />
      <button
        v-for="a in few.shown.value"
        :key="a.id"
        type="button"
        class="key"
        :class="{ on: picked.includes(a.id) }"
        :aria-pressed="picked.includes(a.id)"
        @click="toggle(a.id)"
      >
        {{ a.name }} <span class="small">{{ a.age }}</span>
      </button>
      <v-btn v-if="fixed.length" size="small" @click="picked = [...fixed]">Whose class day it is</v-btn>
      <v-btn v-if="squad" size="small" @click="picked = squad.athletes.map((a) => a.id)">Everybody</v-btn>
    </fieldset>
    <p v-if="wrong" class="stop" role="alert">{{ wrong }}</p>
    <p v-else-if="!view" class="quiet">Choose two golfers or more: the stations stand here.</p>
    <template v-if="view">
      <div class="row">
        <v-btn variant="flat" color="action" size="large" :loading="plan.isPending.value && made > 0" @click="make"
          >Make the class</v-btn
        >
      </div>
      <ClassSheet :view="view" />
    </template>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 14px;
  align-content: start;
}
.who {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}
legend {
  font-weight: 650;
  padding-bottom: 6px;
}
.key {
  font: inherit;
  min-height: 44px;
  padding: 4px 12px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
</style>
