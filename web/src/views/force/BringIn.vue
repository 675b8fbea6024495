<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession, useSquad } from '@/api/queries'
import { useFew } from '@/parts/few'
import FewSearch from '@/parts/FewSearch.vue'

import ColumnTable from './ColumnTable.vue'
import KindChoice from './KindChoice.vue'
import PreviewPlot from './PreviewPlot.vue'
import { type Choice, type Mapping, useBringIn } from './useBringIn'

/** Files of force on their way in: chosen, the first one looked at and mapped, then all of them with their verdicts. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golfer: Schemas['Athlete'] }>()
const emit = defineEmits<{ shown: [id: string] }>()
const { data: session } = useSession()

const { data: squad } = useSquad(false, () => open.value)
const golfers = computed(() => squad.value?.athletes ?? [])
const batch = useBringIn(
  () => props.golfer.id,
  () => golfers.value,
)
const { rows, look, problem, running, done, arrived } = batch
const few = useFew(
  () => golfers.value,
  () => rows.value.flatMap((r) => r.golfer ?? []),
)
const profile = computed(() => props.golfer.profile)
const choice = ref<Choice>({ kind: 'jump', date: '', side: 'right', club: '', fill: true })
const mapping = ref<Mapping>({ frame: { laboratory: false, leftOpposite: false, onPlate: false } })
const mapped = ref(false)
const source = ref('')
const sourceProblem = ref('')
/** The first file: it stands for all of them. */
const sample = computed(() => rows.value[0]?.file)
const begun = computed(() => done.value > 0 || running.value)

watch(open, (is) => {
  if (!is) return
  batch.choose([])
  mapped.value = false
  choice.value = {
    kind: 'jump',
    date: session.value?.today ?? '',
    side: profile.value.playingSide === 'left' ? 'left' : 'right',
    club: '',
    fill: true,
  }
})
async function chosen(e: Event) {
  const files = [...((e.target as HTMLInputElement).files ?? [])]
  const [first] = files
  if (!first) return
  batch.choose(files)
  mapped.value = false
  choice.value.impactS = undefined
  await batch.lookAt(first, choice.value.side)
  take()
}
function take() {
  if (!look.value) return
  mapping.value = look.value.mapping
  source.value = look.value.known
  // The names tell a swing: it has horizontal forces.
  if (look.value.preview.some((p) => p.name === 'toTarget')) choice.value.kind = 'swing'
}
async function map(m: Mapping) {
  mapping.value = m
  mapped.value = true
  if (sample.value) await batch.lookAt(sample.value, choice.value.side, m)
}
watch(
  () => choice.value.side,
  (side) => {
    if (sample.value && !begun.value) void batch.lookAt(sample.value, side, mapped.value ? mapping.value : undefined)
  },
)
const needsImpact = computed(
  () => choice.value.kind === 'swing' && choice.value.impactS === undefined && !look.value?.impactS,
)
async function bring() {
  sourceProblem.value = ''
  if (mapped.value && look.value) {
    try {
      await batch.remember(look.value.fingerprint, { ...mapping.value, source: source.value })
    } catch (e) {
      sourceProblem.value = (e as Error).message
      return
    }
  }
  await batch.run(choice.value)
}
function show() {
  const last = arrived.value.filter((r) => r.golfer === props.golfer.id).at(-1)?.recording
  open.value = false
  if (last) emit('shown', last.id)
}
const words = { waiting: '', reading: 'reading …', in: 'in', refused: 'refused', left: 'left out' } as const
</script>

<template>
  <v-dialog v-model="open" max-width="860" scrollable :persistent="running">
    <div class="box bring">
      <div class="row spread">
        <h2>Bring in recordings of {{ profile.name }}</h2>
        <label class="small file"
          >Files (CSV or C3D, up to 200)
          <input
            type="file"
            multiple
            accept=".csv,.txt,.tsv,.c3d"
            data-testid="force-files"
            :disabled="running"
            @change="chosen"
        /></label>
      </div>
      <p v-if="problem" class="stop small" role="alert">{{ problem }}</p>
      <template v-if="look && !begun">
        <p class="small" data-testid="look">
          {{ sample?.name }}: {{ look.kind === 'c3d' ? 'C3D' : 'CSV' }}, {{ look.samples }} samples<template
            v-if="look.rateHz"
          >
            at {{ look.rateHz.toFixed(0) }} Hz, {{ look.seconds.toFixed(1) }} s</template
          >.
          <template v-if="look.known">Read as “{{ look.known }}”, as last time.</template>
          <template v-else>Columns were found by their names.</template>
        </p>
        <p v-if="look.problem" class="stop small" role="alert">{{ look.problem }}</p>
        <p v-for="n in look.notes" :key="n" class="attention small">{{ n }}</p>
        <PreviewPlot
          v-if="look.preview.length"
          v-model:impact="choice.impactS"
          :look="look"
          :placing="choice.kind === 'swing'"
        />
        <p v-if="look.preview.length" class="small quiet">
          Solid: lead; dashed: trail. Slate: up; rust: toward the target; bark: toward the ball.
        </p>
        <p v-if="choice.kind === 'swing'" class="small" :class="needsImpact ? 'attention' : 'quiet'">
          {{
            needsImpact
              ? 'The file names no impact: click where it is on the plot, or type it. One time holds for all files chosen.'
              : choice.impactS !== undefined
                ? 'Impact placed by hand; it can be moved on the plot of each swing later.'
                : 'Impact is named in the file.'
          }}
        </p>
        <details :open="!!look.problem || mapped" class="small">
          <summary>Columns, axes and units: what the file’s numbers are</summary>
          <ColumnTable :model-value="mapping" :look="look" @update:model-value="map" />
        </details>
        <label v-if="mapped" class="small"
          >Remember this way of reading as
          <input v-model="source" class="text" placeholder="the plates, or their program" maxlength="120"
        /></label>
        <p v-if="sourceProblem" class="stop small" role="alert">{{ sourceProblem }}</p>
        <details v-if="rows.length > 1" class="small" :open="rows.some((r) => r.golfer !== props.golfer.id)">
          <summary>Whose files: by the names in them, else {{ profile.name }}’s</summary>
          <FewSearch v-if="few.many.value" v-model="few.text.value" :more="few.more.value" />
          <div class="verdicts">
            <table>
              <tbody>
                <tr v-for="r in rows" :key="r.file.name">
                  <th>{{ r.file.name }}</th>
                  <td>
                    <select v-model="r.golfer" :aria-label="`Whose file ${r.file.name} is`">
                      <option v-for="g in few.shown.value" :key="g.id" :value="g.id">{{ g.name }}</option>
                    </select>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </details>
        <div class="row small">
          <KindChoice v-model="choice.kind" name="kind" />
          <label>Day <input v-model="choice.date" type="date" class="text" /></label>
          <label
            >Struck from
            <select v-model="choice.side" class="text">
              <option value="right">the right</option>
              <option value="left">the left</option>
            </select></label
          >
          <template v-if="choice.kind === 'swing'">
            <label>Club <input v-model="choice.club" class="text short" maxlength="60" /></label>
            <label
              >Impact
              <input
                v-model.number="choice.impactS"
                type="number"
                step="0.001"
                class="text short"
                aria-label="Impact, s"
              />
              s</label
            >
          </template>
          <label><input v-model="choice.fill" type="checkbox" /> put results in the screen of the day</label>
        </div>
        <div class="row">
          <v-btn variant="flat" color="action" :disabled="!!look.problem || needsImpact || !choice.date" @click="bring"
            >Bring in {{ rows.length }} {{ rows.length === 1 ? 'file' : 'files' }}</v-btn
          >
          <v-btn @click="open = false">Leave it</v-btn>
        </div>
      </template>
      <template v-if="begun">
        <div class="row" role="status">
          <progress :value="done" :max="rows.length" />
          <span class="num" data-testid="progress">{{ done }} of {{ rows.length }}, {{ arrived.length }} in</span>
          <v-btn v-if="running" size="small" @click="batch.stop()">Stop</v-btn>
        </div>
        <div class="verdicts">
          <table class="small">
            <tbody>
              <tr v-for="r in rows" :key="r.file.name" data-testid="verdict-row">
                <th>{{ r.file.name }}</th>
                <td v-if="rows.some((x) => x.golfer !== props.golfer.id)">
                  {{ golfers.find((g) => g.id === r.golfer)?.name }}
                </td>
                <td :class="{ stop: r.state === 'refused', good: r.state === 'in' }">{{ words[r.state] }}</td>
                <td>{{ r.text }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div v-if="!running" class="row">
          <v-btn variant="flat" color="action" :disabled="!arrived.length" @click="show">Look at them</v-btn>
          <v-btn :disabled="!arrived.length" @click="batch.takeBack()">Take all back</v-btn>
          <v-btn @click="open = false">Close</v-btn>
        </div>
      </template>
    </div>
  </v-dialog>
</template>

<style scoped>
.bring p {
  margin: 0;
}
details > :not(summary) {
  margin-top: 8px;
}
.bring {
  overflow-y: auto;
  max-height: 86vh;
}
.text,
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-background));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 1px 6px;
}
.short {
  width: 84px;
}
progress {
  width: 260px;
  accent-color: rgb(var(--v-theme-primary));
}
.verdicts {
  max-height: 320px;
  overflow: auto;
}
th {
  text-align: left;
  font-weight: 400;
}
td,
th {
  padding: 1px 12px 1px 0;
  vertical-align: top;
}
</style>
