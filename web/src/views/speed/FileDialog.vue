<script setup lang="ts">
import { computed, ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { toShown } from '@/parts/speed'

import type { Page, Swing } from './useSpeed'
import SelectField from '@/parts/SelectField.vue'

/** A file of swings, CSV or XLSX: what each column holds is guessed, and said by the coach where the guess is wrong. */
type SwingFile = Schemas['SwingFile']
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ page: Page; unit: 'mph' | 'm/s' }>()
const emit = defineEmits<{ add: [swings: Omit<Swing, 'id'>[]] }>()

const body = ref<ArrayBuffer>()
const file = ref<SwingFile>()
const problem = ref('')
const busy = ref(false)
async function read(columns?: SwingFile['columns']) {
  if (!body.value) return
  busy.value = true
  problem.value = ''
  try {
    file.value = await must(
      api.POST('/swing-files', {
        params: { query: columns ? { columns: JSON.stringify(columns) } : {} },
        body: '' as string,
        bodySerializer: () => body.value,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
  } catch (e) {
    problem.value = (e as Error).message
    file.value = undefined
  } finally {
    busy.value = false
  }
}
async function choose(e: Event) {
  const chosen = (e.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  body.value = await chosen.arrayBuffer()
  await read()
}
function set(i: number, what: Partial<SwingFile['columns'][number]>) {
  const columns = file.value?.columns.map((c, k) => (k === i ? { ...c, ...what } : c))
  if (columns) void read(columns)
}
const quantities = [
  ['', 'left out'],
  ['club', 'club speed'],
  ['ball', 'ball speed'],
  ['carry', 'carry'],
  ['launch', 'launch, °'],
  ['spin', 'spin a minute'],
  ['implement', 'implement'],
  ['side', 'side'],
  ['set', 'set'],
].map(([value, title]) => ({ value, title }))
const units = (q: string) => (q === 'carry' ? ['yd', 'm'] : ['mph', 'km/h', 'm/s'])
const hasUnit = (q: string) => ['club', 'ball', 'carry'].includes(q)
const first = computed(() => file.value?.swings.slice(0, 3).map((s) => toShown(s.clubMps, props.unit).toFixed(1)) ?? [])

/** An implement of the file is one of ours by its name; else it is the own driver. */
function ours(name: string): string {
  const low = name.trim().toLowerCase()
  const all = [props.page.own, ...props.page.implements]
  return all.find((i) => low !== '' && i.name.toLowerCase() === low)?.id ?? props.page.own.id
}
function bring() {
  if (!file.value) return
  emit(
    'add',
    file.value.swings.map((s) => ({
      implement: ours(s.implement),
      side: s.side,
      intent: s.intent as Swing['intent'],
      set: s.set,
      atS: s.atS,
      clubMps: s.clubMps,
      ballMps: s.ballMps,
      carryM: s.carryM,
      launchDeg: s.launchDeg,
      spinRpm: s.spinRpm,
    })),
  )
  file.value = undefined
  body.value = undefined
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" scrollable>
    <div class="box">
      <h2>Swings from a file</h2>
      <input type="file" accept=".csv,.txt,.tsv,.xlsx" aria-label="CSV or XLSX file of swings" @change="choose" />
      <p v-if="problem" class="stop" role="alert">{{ problem }}</p>
      <template v-if="file">
        <div class="wide">
          <table>
            <thead>
              <tr>
                <th v-for="(h, i) in file.header" :key="i">{{ h }}</th>
              </tr>
              <tr>
                <td v-for="(c, i) in file.columns" :key="i">
                  <SelectField
                    :model-value="c.quantity"
                    :items="quantities"
                    :aria-label="`What ${file.header[i]} holds`"
                    @update:model-value="
                      (v: typeof c.quantity) =>
                        set(i, { quantity: v, unit: hasUnit(v) ? (v === 'carry' ? 'm' : props.unit) : '' })
                    "
                  />
                  <SelectField
                    v-if="hasUnit(c.quantity)"
                    :model-value="c.unit"
                    :items="units(c.quantity)"
                    :aria-label="`Unit of ${file.header[i]}`"
                    @update:model-value="(v: typeof c.unit) => set(i, { unit: v })"
                  />
                </td>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, k) in file.first" :key="k">
                <td v-for="(cell, i) in r" :key="i" class="num">{{ cell }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <p data-testid="swing-file">
          {{ file.swings.length }} swings<template v-if="first.length"
            >, the first {{ first.join(', ') }} {{ props.unit }}</template
          >.
          <template v-if="!file.columns.some((c) => c.quantity === 'club')">Say which column is club speed.</template>
        </p>
        <p v-for="w in file.warnings" :key="w" class="attention">{{ w }}</p>
        <ul v-if="file.errors.length" class="small stop">
          <li v-for="e in file.errors.slice(0, 8)" :key="e.row">Row {{ e.row }}: {{ e.detail }}, left out.</li>
          <li v-if="file.errors.length > 8">and {{ file.errors.length - 8 }} more</li>
        </ul>
      </template>
      <div class="row">
        <v-btn variant="flat" color="action" :disabled="!file?.swings.length" :loading="busy" @click="bring">
          Bring in {{ file?.swings.length ?? 0 }} swings
        </v-btn>
        <v-btn @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.box {
  overflow-y: auto;
  max-height: 88vh;
}
.wide {
  overflow-x: auto;
}
td,
th {
  padding: 3px 10px 3px 0;
  text-align: left;
  min-width: 130px;
}
</style>
