<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { type ApiError, api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

/** Logs in and out as files: read first, brought in when nothing of it is wrong, taken back again. */
const props = defineProps<{ id: string }>()
const client = useQueryClient()
const file = ref<File>()
const read = ref<Schemas['LogsRead']>()
const wrong = ref('')
const back = ref(false)
const input = ref<HTMLInputElement | null>(null)

async function send(commit: boolean): Promise<Schemas['LogsRead']> {
  if (!file.value) throw new Error('no file')
  const bytes = await file.value.arrayBuffer()
  return must(
    api.POST('/athletes/{athleteId}/logs', {
      params: { path: { athleteId: props.id }, query: { commit } },
      body: bytes as unknown as string,
      bodySerializer: (b) => b as unknown as ArrayBuffer,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
}
async function forget() {
  for (const k of [keys.floor(props.id), keys.load(props.id), keys.nextDose(props.id), keys.athlete(props.id)])
    await client.invalidateQueries({ queryKey: k })
}
async function look(e: Event) {
  file.value = (e.target as HTMLInputElement).files?.[0]
  read.value = undefined
  wrong.value = ''
  back.value = false
  if (!file.value) return
  try {
    read.value = await send(false)
  } catch (x) {
    wrong.value = (x as ApiError).message
  }
  if (input.value) input.value.value = ''
}
const bring = useMutation({
  mutationFn: () => send(true),
  onSuccess: async (now) => {
    read.value = now
    await forget()
  },
})
const takeBack = useMutation({
  mutationFn: () =>
    must(
      api.POST('/athletes/{athleteId}/logs/undo', {
        params: { path: { athleteId: props.id } },
        body: { sessions: read.value?.sessions ?? [] },
      }),
    ),
  onSuccess: async () => {
    back.value = true
    await forget()
  },
})
const says = computed(() =>
  read.value
    ? `${read.value.sessions.length} sessions, ${read.value.sets} sets in ${file.value?.name ?? 'the file'}.`
    : '',
)
</script>

<template>
  <section class="files" aria-label="Logs as files">
    <div class="row small">
      <span>Logs as</span>
      <a v-for="f in ['csv', 'xlsx', 'json']" :key="f" :href="`/api/v1/athletes/${props.id}/logs/${f}`">{{
        f.toUpperCase()
      }}</a>
      <label class="in"
        >Bring logs in…<input ref="input" type="file" accept=".csv,.xlsx,.json" class="visually-hidden" @change="look"
      /></label>
    </div>
    <p v-if="wrong" class="stop" role="alert">{{ wrong }}</p>
    <div v-if="read" role="status">
      <p>
        {{ says }}
        <template v-if="back">Taken back; the history keeps it.</template>
        <template v-else-if="read.saved">Brought in.</template>
        <template v-else-if="read.errors.length">Nothing is brought in until it is put right:</template>
      </p>
      <ul v-if="read.errors.length" class="small">
        <li v-for="(e, i) in read.errors.slice(0, 20)" :key="i">
          {{ e.row ? `Row ${e.row}, ` : '' }}{{ e.column }}: {{ e.detail }}
        </li>
      </ul>
      <v-btn
        v-if="!read.saved && !read.errors.length"
        variant="flat"
        color="action"
        :loading="bring.isPending.value"
        @click="bring.mutate()"
        >Bring them in</v-btn
      >
      <v-btn v-else-if="read.saved && !back" @click="takeBack.mutate()">Take it back</v-btn>
      <p v-if="bring.error.value" class="stop">{{ bring.error.value.message }}</p>
    </div>
  </section>
</template>

<style scoped>
.files {
  display: grid;
  gap: 6px;
}
.in {
  cursor: pointer;
  color: rgb(var(--v-theme-action));
  text-decoration: underline;
}
.in:focus-within {
  outline: 2px solid rgb(var(--v-theme-action));
}
</style>
