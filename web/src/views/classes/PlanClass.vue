<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { type ApiError, api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useSquad } from '@/api/queries'

import ClassSheet from './ClassSheet.vue'

/** A class: who is there, how long, and the stations that follow. It is laid out as it is being asked for. */
const router = useRouter()
const client = useQueryClient()
const { data: squad } = useSquad()
const today = computed(() => client.getQueryData<{ date: string }>(keys.today())?.date ?? squad.value?.today ?? '')
const date = ref('')
watch(today, (t) => (date.value ||= t), { immediate: true })
const name = ref('Class')
const start = ref('17:30')
const minutes = ref(60)
const coaches = ref(1)
const room = ref(false)
const picked = ref<string[]>([])
const body = (dry: boolean): Schemas['ClassRequest'] => ({
  date: date.value,
  name: name.value,
  start: start.value,
  athletes: picked.value,
  minutes: minutes.value,
  coaches: coaches.value,
  room: room.value,
  dry,
})
const plan = useMutation({
  mutationFn: (dry: boolean) => must(api.POST('/classes', { body: body(dry) })),
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
      view.value = await plan.mutateAsync(true)
      wrong.value = ''
    } catch (e) {
      view.value = undefined
      wrong.value = (e as ApiError).message
    }
  }, 350)
})
async function make() {
  try {
    const made = await plan.mutateAsync(false)
    await client.invalidateQueries({ queryKey: keys.today() })
    await router.push({ name: 'class', params: { classId: made.id } })
  } catch (e) {
    wrong.value = (e as ApiError).message
  }
}
function toggle(id: string) {
  picked.value = picked.value.includes(id) ? picked.value.filter((x) => x !== id) : [...picked.value, id]
}
</script>

<template>
  <div class="sheet plan">
    <h1>Plan a class</h1>
    <div class="form-grid">
      <v-text-field v-model="name" label="Name" maxlength="120" />
      <v-text-field v-model="date" label="Day" type="date" />
      <v-text-field v-model="start" label="Starts at" type="time" />
      <v-text-field v-model.number="minutes" label="Minutes" type="number" min="20" max="180" />
      <v-text-field v-model.number="coaches" label="Coaches" type="number" min="1" max="20" />
      <v-checkbox v-model="room" label="There is room and a ceiling to swing" />
    </div>
    <fieldset class="who">
      <legend>Who is there ({{ picked.length }})</legend>
      <button
        v-for="a in squad?.athletes"
        :key="a.id"
        type="button"
        class="key"
        :class="{ on: picked.includes(a.id) }"
        :aria-pressed="picked.includes(a.id)"
        @click="toggle(a.id)"
      >
        {{ a.name }} <span class="small">{{ a.age }}</span>
      </button>
      <v-btn v-if="squad" size="small" @click="picked = squad.athletes.map((a) => a.id)">Everybody</v-btn>
    </fieldset>
    <p v-if="wrong" class="stop" role="alert">{{ wrong }}</p>
    <p v-else-if="!view" class="quiet">Choose two golfers or more: the stations stand here.</p>
    <template v-if="view">
      <div class="row">
        <v-btn variant="flat" color="action" size="large" @click="make">Make the class</v-btn>
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
