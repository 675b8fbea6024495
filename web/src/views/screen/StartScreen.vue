<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget } from '@/api/queries'
import { vFirst } from '@/keys/first'
import SelectField from '@/parts/SelectField.vue'

/** Begins the screen of a day, with a battery. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  athleteId: string
  screens: Schemas['ScreenRow'][]
  sets: Schemas['Meta']['sets']
  today: string
}>()
const router = useRouter()
const client = useQueryClient()
const forget = useForget()
const date = ref(props.today)
/** The screen there is of the chosen day already: a day has one. */
const already = computed(() => props.screens.find((s) => s.date === date.value))
/** Null keeps the battery of the last screen. */
const set = ref<string | null>(null)
const start = useMutation({
  mutationFn: () =>
    must(
      api.POST('/athletes/{athleteId}/screens', {
        params: { path: { athleteId: props.athleteId } },
        body: { date: date.value, ...(set.value === null ? {} : { set: set.value }) },
      }),
    ),
  onSuccess: async (s) => {
    open.value = false
    client.setQueryData(keys.screen(s.id), s)
    await forget(props.athleteId)
    void router.push({ name: 'screen', params: { id: props.athleteId, screenId: s.id } })
  },
})
</script>

<template>
  <v-dialog v-model="open" max-width="360">
    <form class="box" @submit.prevent="start.mutate()">
      <h2>Start a screen</h2>
      <v-text-field v-model="date" label="Done on" type="date" :max="props.today" v-first />
      <p v-if="already">
        There is a screen of that day already.
        <router-link
          :to="{ name: 'screen', params: { id: props.athleteId, screenId: already.id } }"
          @click="open = false"
        >
          Open it
        </router-link>
      </p>
      <SelectField
        v-model="set"
        label="Battery"
        :items="[
          { title: 'As last time', value: null },
          ...props.sets.map((s) => ({ title: s.name, value: s.id, props: { subtitle: s.note } })),
        ]"
      />
      <p v-if="start.error.value" class="stop" role="alert">{{ start.error.value.message }}</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :disabled="!!already" :loading="start.isPending.value">
          Start
        </v-btn>
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
