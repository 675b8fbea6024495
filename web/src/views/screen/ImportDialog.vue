<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import WrongRows from '@/parts/WrongRows.vue'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{ athleteId: string; text: string }>()
const emit = defineEmits<{ done: [] }>()

const file = ref<Blob | string>()
const name = ref('')
/** The server's limit, docs/formats.md. */
const MAX_BYTES = 2 << 20
const tooLarge = ref(false)
const report = ref<Schemas['ImportReport']>()

const run = useMutation({
  mutationFn: async (how: { commit: boolean; confirm: boolean }) => {
    const body = file.value
    if (!body) throw new ApiError(422, { type: 'about:blank', title: '', status: 422, detail: 'Choose a file first.' })
    return must(
      api.POST('/athletes/{athleteId}/imports', {
        params: { path: { athleteId: props.athleteId }, query: how },
        headers: { 'Content-Type': 'text/csv' },
        body: '' as string,
        bodySerializer: () => body,
      }),
    )
  },
  onSuccess: (r) => {
    report.value = r
    if (r.saved) emit('done')
  },
  onError: () => (report.value = undefined),
})

watch(open, (is) => {
  file.value = undefined
  report.value = undefined
  run.reset()
  name.value = ''
  tooLarge.value = false
  if (is && props.text) {
    name.value = 'what was pasted'
    file.value = props.text.replaceAll('\t', ';')
    run.mutate({ commit: false, confirm: false })
  }
})

function choose(event: Event) {
  const chosen = (event.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  name.value = chosen.name
  tooLarge.value = chosen.size > MAX_BYTES
  if (tooLarge.value) {
    // Told here: a browser that is still sending does not hear the server's answer.
    report.value = undefined
    return
  }
  file.value = chosen
  run.mutate({ commit: false, confirm: false })
}
const hard = computed(() => report.value?.errors.filter((e) => !e.unlikely) ?? [])
const unlikely = computed(() => report.value?.errors.filter((e) => e.unlikely) ?? [])
const trials = computed(() => report.value?.screens.reduce((n, s) => n + s.trials, 0) ?? 0)
</script>

<template>
  <v-dialog v-model="open" max-width="720">
    <div class="box">
      <h2>Bring in a file</h2>
      <p class="small quiet">
        CSV in UTF-8 with the header date,test,side,trial,value,unit,status,note. Commas with decimal points, or
        semicolons with either. First it is only looked at; then everything is saved, or nothing.
      </p>
      <input type="file" accept=".csv,text/csv" aria-label="CSV file" @change="choose" />
      <p v-if="tooLarge" class="stop" role="alert">
        {{ name }} is larger than 2 MB. Nothing was read; split it by date and try again.
      </p>
      <p v-if="run.isPending.value" class="quiet">Reading {{ name }}…</p>
      <p v-if="run.error.value" class="stop" role="alert">{{ run.error.value.message }}</p>
      <template v-if="report && !report.saved">
        <p v-if="report.errors.length === 0" class="good">
          {{ name }}: {{ trials }} trials on {{ report.screens.map((s) => longDay(s.date)).join(', ') }}, all well.
        </p>
        <template v-else>
          <p class="stop" role="alert">
            {{ report.errors.length }} of {{ report.rows }} rows need a look. Nothing is saved.
          </p>
          <WrongRows :rows="report.errors" />
        </template>
      </template>
      <div class="row">
        <v-btn
          v-if="report && report.errors.length === 0"
          variant="flat"
          color="action"
          @click="run.mutate({ commit: true, confirm: false })"
          >Save {{ trials === 1 ? '1 trial' : `${trials} trials` }}</v-btn
        >
        <v-btn
          v-if="report && hard.length === 0 && unlikely.length > 0"
          variant="flat"
          color="action"
          @click="run.mutate({ commit: true, confirm: true })"
          >Keep {{ unlikely.length }} unlikely values and save</v-btn
        >
        <v-btn @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>
