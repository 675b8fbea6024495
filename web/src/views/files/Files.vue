<script setup lang="ts">
import { mdiTrayArrowUp } from '@mdi/js'
import { computed, ref, watch } from 'vue'

import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useRouter } from 'vue-router'

import { api, type ApiError, must, type Schemas } from '@/api/client'
import { useMeta, useSession, useSquad } from '@/api/queries'
import { moment } from '@/parts/clock'
import WrongRows from '@/parts/WrongRows.vue'

import MappingTable from './MappingTable.vue'
import { MAX_BYTES, useUpload, useUploads } from './useUpload'

const { data: meta } = useMeta()
const { data: squad } = useSquad()
const { data: uploads } = useUploads()
const { id, upload, running, send, check, commit, cancel, undo } = useUpload()

const tooLarge = ref('')
const mapping = ref<Schemas['Mapping']>()
/** The columns were changed since the file was checked. */
const stale = ref(false)
watch(
  () => [upload.value?.id, upload.value?.mapping] as const,
  ([now, m], before) => {
    if (m && (now !== before?.[0] || !mapping.value)) {
      mapping.value = JSON.parse(JSON.stringify(m)) as Schemas['Mapping']
      stale.value = false
    }
  },
)
watch(mapping, (_, before) => (stale.value = before !== undefined && upload.value?.state !== 'uploaded'), {
  deep: true,
})

function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  tooLarge.value =
    file.size > MAX_BYTES ? `${file.name} is larger than 12 MB. Nothing was read; split it and try again.` : ''
  mapping.value = undefined
  if (tooLarge.value) return
  if (/\.json$/i.test(file.name)) bring.mutate(file)
  else send.mutate(file)
}
const router = useRouter()
const client = useQueryClient()
/** A golfer's own export: made here with every screen. */
const bring = useMutation({
  mutationFn: async (file: File) =>
    must(
      api.POST('/golfer-files', {
        headers: { 'Content-Type': 'application/octet-stream' },
        body: '' as string,
        bodySerializer: () => file,
      }),
    ),
  onSuccess: async (g) => {
    await client.invalidateQueries()
    await router.push({ name: 'read', params: { id: g.id } })
  },
})
async function look() {
  if (!mapping.value) return
  stale.value = false
  await check.mutateAsync(mapping.value).catch(() => undefined)
}
const wrong = computed(() =>
  Object.fromEntries(((check.error.value as ApiError | null)?.fields ?? []).map((f) => [f.field, f.detail])),
)
const header = computed(() => new Set(upload.value?.header ?? []))
const general = computed(() => Object.entries(wrong.value).filter(([k]) => !header.value.has(k)))
const report = computed(() => upload.value?.report)
const hard = computed(() => (report.value ? report.value.errors.filter((e) => !e.unlikely).length : 0))
const mapped = (f: string) => mapping.value?.columns.some((c) => c.field === f)
const stateWords: Record<Schemas['Upload']['state'], string> = {
  uploaded: 'waiting to be checked',
  checking: 'being checked',
  checked: 'checked, not saved',
  saving: 'being saved',
  saved: 'saved',
  undone: 'taken back',
  cancelled: 'cancelled',
  failed: 'went wrong',
}
const { data: session } = useSession()
const when = (s: string) => moment(s, session.value?.zone)
</script>

<template>
  <div class="sheet">
    <h1>Files</h1>
    <div class="row top">
      <label class="pick">
        <v-btn tag="span" variant="flat" color="action" :prepend-icon="mdiTrayArrowUp">Bring in a file</v-btn>
        <input
          type="file"
          class="visually-hidden"
          accept=".csv,.tsv,.txt,.xlsx,.json,text/csv"
          aria-label="CSV or XLSX file"
          @change="choose"
        />
      </label>
      <span class="small quiet"
        >CSV or XLSX with a header row, or a golfer’s JSON export; up to 12 MB. It is looked at first; then everything
        is saved, or nothing.</span
      >
      <span class="gap" />
      <span class="small">Take everything with you:</span>
      <v-btn size="small" href="/api/v1/exports/csv" download>CSV</v-btn>
      <v-btn size="small" href="/api/v1/exports/xlsx" download>XLSX</v-btn>
    </div>
    <p v-if="tooLarge" class="stop" role="alert">{{ tooLarge }}</p>
    <p v-if="send.isPending.value" class="quiet">Reading the file …</p>
    <p v-if="bring.error.value" class="stop" role="alert">{{ bring.error.value.message }}</p>
    <p v-if="send.error.value" class="stop" role="alert">{{ send.error.value.message }}</p>

    <section v-if="upload && mapping">
      <h2>{{ upload.fileName }}</h2>
      <p class="small">
        {{ upload.rows ?? upload.total }} rows{{ upload.sheet ? ` of sheet ${upload.sheet}` : '' }}.
        <template v-if="upload.known">Read as last time: {{ upload.known }}.</template>
        <template v-else-if="upload.state === 'uploaded'"
          >Say what the columns mean; the guess is from the header.</template
        >
      </p>
      <div class="row fields">
        <v-text-field
          v-model="mapping.source"
          label="Remember this source as"
          placeholder="barn sheet"
          maxlength="120"
        />
        <v-select
          v-model="mapping.decimal"
          label="Decimals"
          :items="[
            { title: '42.5', value: '.' },
            { title: '42,5', value: ',' },
          ]"
        />
        <v-select
          v-model="mapping.dates"
          label="Dates"
          :items="['YYYY-MM-DD', 'DD.MM.YYYY', 'DD/MM/YYYY', 'MM/DD/YYYY']"
          :placeholder="mapping.dates ? undefined : 'day or month first?'"
          :error-messages="mapping.dates ? undefined : 'Day or month first? Both can be read.'"
          persistent-placeholder
        />
        <v-select
          v-if="!mapped('golfer')"
          v-model="mapping.golfer"
          label="All rows are of"
          :items="(squad?.athletes ?? []).map((a) => ({ title: a.name, value: a.id }))"
        />
        <v-text-field v-if="!mapped('date')" v-model="mapping.date" label="All rows are from" type="date" />
        <v-checkbox v-model="mapping.addGolfers" label="Make golfers who are not there" />
      </div>
      <p v-for="[k, t] in general" :key="k" class="stop small" role="alert">{{ t }}</p>
      <MappingTable v-model="mapping" :upload="upload" :tests="meta?.tests ?? []" :wrong="wrong" />
      <div class="row act">
        <v-btn variant="flat" color="action" :disabled="running" @click="look">Look at it</v-btn>
        <template v-if="running">
          <progress :value="upload.done" :max="Math.max(1, upload.total)" :aria-label="stateWords[upload.state]" />
          <span class="num small" data-testid="progress"
            >{{ stateWords[upload.state] }}: {{ upload.done }} of {{ upload.total }}</span
          >
          <v-btn size="small" @click="cancel.mutate()">Cancel</v-btn>
        </template>
        <span v-else class="small" data-testid="upload-state"
          >{{ stateWords[upload.state] }}{{ upload.note ? `: ${upload.note}` : '' }}</span
        >
        <v-btn v-if="upload.state === 'saved'" size="small" @click="undo.mutate(upload.id)">Take this file back</v-btn>
      </div>
      <template v-if="report && !stale && !running && upload.state !== 'uploaded'">
        <p :class="report.errorRows ? 'stop' : 'good'" role="status" data-testid="verdict">
          {{ report.goodRows }} of {{ report.rows }} rows are good: {{ report.trials }} trials of
          {{ report.golfers }} golfers on {{ report.screens }} screens{{
            report.days ? `, ${report.days} numbers of days` : ''
          }}<template v-if="report.newGolfers.length">, {{ report.newGolfers.length }} golfers new</template>.
          <template v-if="report.errorRows"
            >{{ report.errorRows === 1 ? '1 row needs' : `${report.errorRows} rows need` }} a look. Nothing is saved
            until all are good.</template
          >
        </p>
        <p v-if="report.leftOut.length" class="attention" data-testid="left-out">
          Not brought in: {{ report.leftOut.join(', ') }}. Say what a column means to bring it in.
        </p>
        <div class="row">
          <v-btn
            v-if="upload.state === 'checked' && report.errorRows === 0"
            variant="flat"
            color="action"
            @click="commit.mutate(false)"
            >Save {{ report.trials === 1 ? '1 trial' : `${report.trials} trials` }}</v-btn
          >
          <v-btn
            v-if="upload.state === 'checked' && report.errorRows > 0 && hard === 0 && report.unlikely > 0"
            variant="flat"
            color="action"
            @click="commit.mutate(true)"
            >Keep {{ report.unlikely }} unlikely values and save</v-btn
          >
        </div>
        <p v-if="commit.error.value" class="stop" role="alert">{{ commit.error.value.message }}</p>
        <WrongRows v-if="report.errors.length" :rows="report.errors" />
        <details>
          <summary class="small">Row by row (the first {{ report.verdicts.length }})</summary>
          <table class="small">
            <tbody>
              <tr v-for="v in report.verdicts" :key="v.row">
                <td class="num">{{ v.row }}</td>
                <td :class="{ stop: v.text }">{{ v.text || 'good' }}</td>
              </tr>
            </tbody>
          </table>
        </details>
      </template>
    </section>

    <section v-if="uploads?.length">
      <h2>Brought in before</h2>
      <table class="small list">
        <tbody>
          <tr v-for="u in uploads" :key="u.id">
            <td class="num">{{ when(u.createdAt) }}</td>
            <td>
              <button class="plain link" @click="((mapping = undefined), (id = u.id))">{{ u.fileName }}</button>
            </td>
            <td>{{ u.createdBy }}</td>
            <td>{{ stateWords[u.state] }}{{ u.note ? `: ${u.note}` : '' }}</td>
            <td><v-btn v-if="u.state === 'saved'" size="small" @click="undo.mutate(u.id)">Take back</v-btn></td>
          </tr>
        </tbody>
      </table>
      <p v-if="undo.error.value" class="stop" role="alert">{{ undo.error.value.message }}</p>
    </section>
  </div>
</template>

<style scoped>
.top {
  margin: 8px 0;
}
.gap {
  flex: 1;
}
.fields > * {
  max-width: 220px;
  min-width: 150px;
}
.act {
  margin: 8px 0;
}
progress {
  width: 220px;
  accent-color: rgb(var(--v-theme-primary));
}
td,
th {
  text-align: left;
  padding: 2px 16px 2px 0;
  vertical-align: top;
}
.link {
  text-decoration: underline;
}
section {
  margin-top: 12px;
}
</style>
