<script setup lang="ts">
import { mdiTrayArrowUp } from '@mdi/js'
import { computed, nextTick, ref, watch } from 'vue'

import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useRouter } from 'vue-router'

import { api, type ApiError, must, type Schemas } from '@/api/client'
import { useMeta, useSession, useSquad } from '@/api/queries'
import { moment } from '@/parts/clock'
import EmptyState from '@/parts/EmptyState.vue'
import { longDay } from '@/parts/days'
import { late } from '@/parts/late'
import { count } from '@/parts/words'
import WrongRows from '@/parts/WrongRows.vue'

import MappingTable from './MappingTable.vue'
import SheetChoice from './SheetChoice.vue'
import { MAX_BYTES, useUpload, useUploads } from './useUpload'
import SelectField from '@/parts/SelectField.vue'

/** Names that are asked about come with a list to look in: most files need none. */
const NamesAsked = late(() => import('./NamesAsked.vue'))
const { data: meta } = useMeta()
const { data: uploads } = useUploads()
const { id, upload, running, send, lay, check, commit, cancel, undo } = useUpload()
// Whose a file's rows are is asked for once there is one.
const { data: squad } = useSquad(false, () => upload.value !== undefined)

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
/** Another sheet or header: its columns mean something else. */
function layOut(layout: Schemas['Layout']) {
  lay.mutate(layout, {
    onSuccess: (u) => {
      mapping.value = u.mapping && (JSON.parse(JSON.stringify(u.mapping)) as Schemas['Mapping'])
      check.reset()
    },
  })
}
/** What names mean is said, and the file is looked at again. */
async function say(what: 'golfers' | 'tests', said: Record<string, string>) {
  if (!mapping.value) return
  mapping.value = { ...mapping.value, [what]: { ...mapping.value[what], ...said } }
  await nextTick() // what watches the mapping takes it for changed
  await look()
}
const everybody = computed(() => squad.value?.athletes ?? [])
const everyTest = computed(() => (meta.value?.tests ?? []).filter((t) => t.rule !== 'derived'))
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
/** Shapes of sheets that are understood, to look at. */
const shapes = [
  {
    what: 'A test a column',
    head: ['Name', 'Date', 'Grip L', 'Grip R', 'CMJ'],
    rows: [
      ['Brae, Torquil', '24/11/2026', '52', '54', '35.5'],
      ['M. Hellyer', '24/11/2026', 'n/a', '30', '25'],
    ],
  },
  {
    what: 'Golfers across',
    head: ['Test', 'Side', 'T. Brae', 'M. Hellyer'],
    rows: [
      ['Hip IR', 'L', '38°', '44°'],
      ['Hip IR', 'R', '41°', '46°'],
    ],
  },
]
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
        >CSV, TSV or XLSX, or a golfer’s JSON export; up to 12 MB. It is looked at first; then everything is saved, or
        nothing.</span
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
        {{ count(upload.rows ?? upload.total, 'row') }}.
        <template v-if="upload.known">Read as last time: {{ upload.known }}.</template>
        <template v-else-if="upload.state === 'uploaded'"
          >Look at what the columns are taken to mean, and mend it where it is wrong.</template
        >
      </p>
      <SheetChoice
        v-if="upload.first && mapping.layout"
        :upload="upload"
        :layout="mapping.layout"
        :busy="running || lay.isPending.value"
        @change="layOut"
      />
      <p v-if="lay.error.value" class="stop small" role="alert">{{ lay.error.value.message }}</p>
      <div class="row fields">
        <v-text-field
          v-model="mapping.source"
          label="Remember this source as"
          placeholder="barn sheet"
          maxlength="120"
        />
        <SelectField
          v-model="mapping.decimal"
          label="Decimals"
          :items="[
            { title: '42.5', value: '.' },
            { title: '42,5', value: ',' },
          ]"
        />
        <SelectField
          v-model="mapping.dates"
          label="In 04/07 stands"
          :items="[
            { title: 'the day first', value: 'day first' },
            { title: 'the month first', value: 'month first' },
          ]"
          :placeholder="mapping.dates ? undefined : 'day or month?'"
          :error-messages="mapping.dates ? undefined : 'Every date here can be read both ways.'"
        />
        <SelectField
          v-if="!mapped('golfer')"
          v-model="mapping.golfer"
          label="All rows are of"
          :items="everybody.map((a) => ({ title: a.name, value: a.id }))"
        />
        <v-text-field
          v-if="!mapped('date')"
          v-model="mapping.date"
          :label="mapping.date ? `All rows are from ${longDay(mapping.date)}` : 'All rows are from'"
          type="date"
        />
        <v-checkbox v-model="mapping.fillDown" label="An empty name or date is that of the row above" />
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
          {{ report.goodRows }} of {{ count(report.rows, 'row') }} {{ report.goodRows === 1 ? 'is' : 'are' }} good:
          {{ count(report.trials, 'trial') }} of {{ count(report.golfers, 'golfer') }} on
          {{ count(report.screens, 'screen') }}{{ report.days ? `, ${count(report.days, 'number')} of days` : ''
          }}<template v-if="report.newGolfers.length">, {{ count(report.newGolfers.length, 'golfer') }} new</template>.
          <template v-if="report.errorRows"
            >{{ count(report.errorRows, 'row needs', 'rows need') }} a look. Nothing is saved until all are
            good.</template
          >
        </p>
        <p v-for="n in report.notes" :key="n" class="attention small">{{ n }}</p>
        <p v-if="report.leftOut.length" class="attention" data-testid="left-out">
          Not brought in: {{ report.leftOut.join(', ') }}.
        </p>
        <NamesAsked
          v-if="report.askGolfers.length"
          :asks="report.askGolfers"
          what="golfers"
          :all="everybody"
          :may-add="mapping.addGolfers === true"
          @take="(said) => say('golfers', said)"
        />
        <NamesAsked
          v-if="report.askTests.length"
          :asks="report.askTests"
          what="tests"
          :all="everyTest"
          @take="(said) => say('tests', said)"
        />
        <div class="row">
          <v-btn
            v-if="upload.state === 'checked' && report.errorRows === 0"
            variant="flat"
            color="action"
            @click="commit.mutate(false)"
            >Save {{ count(report.trials, 'trial') }}</v-btn
          >
          <v-btn
            v-if="upload.state === 'checked' && report.errorRows > 0 && hard === 0 && report.unlikely > 0"
            variant="flat"
            color="action"
            @click="commit.mutate(true)"
            >Keep {{ count(report.unlikely, 'unlikely value') }} and save</v-btn
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

    <EmptyState
      v-if="!upload && uploads?.length === 0"
      title="Bring the results you keep"
      text="Any sheet will do: a test a column or a trial a row, golfers down or across, titles above, left and right. What each column means is proposed, you look at it, and a whole file can be taken back."
    >
      <table v-for="shape in shapes" :key="shape.what" class="small shape">
        <caption class="quiet">
          {{
            shape.what
          }}
        </caption>
        <thead>
          <tr>
            <th v-for="h in shape.head" :key="h" scope="col">{{ h }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in shape.rows" :key="r.join()">
            <td v-for="(c, i) in r" :key="i">{{ c }}</td>
          </tr>
        </tbody>
      </table>
    </EmptyState>
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
.fields {
  margin-top: 10px;
}
.shape {
  border-collapse: collapse;
  margin-right: 24px;
}
.shape caption {
  text-align: left;
}
.shape td,
.shape th {
  border: 1px solid rgb(var(--v-theme-line));
  padding: 2px 8px;
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
