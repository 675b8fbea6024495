<script setup lang="ts">
import { ref, watch } from 'vue'

import type { Schemas } from '@/api/client'

import { useForceEdits } from './useForce'

/** The practice's own windows, and the filters all of a golfer's recordings are read with. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ athleteId: string; page: Schemas['ForcePage'] }>()
const { windows, recompute } = useForceEdits(() => props.athleteId)

type Limit = Schemas['ForceWindow'] & { from: string; until: string }
const limits = ref<Limit[]>([])
const asTheyAre = () =>
  (limits.value = props.page.windows.map((w) => ({ ...w, from: String(w.low), until: String(w.high) })))
const jumpCutoff = ref('50')
const swingCutoff = ref('40')
const onset = ref<'crossing' | 'back30ms'>('crossing')
const about = ref<'combined' | 'midfoot'>('combined')
const said = ref('')
const problem = ref('')
watch(open, (is) => {
  if (!is) return
  said.value = ''
  problem.value = ''
  asTheyAre()
  // How the newest recordings were read.
  const hz = (n: number | undefined, otherwise: string) => (n === undefined ? otherwise : n > 0 ? String(n) : '')
  const jump = props.page.recordings.find((r) => r.jump)?.jump
  const swing = props.page.recordings.find((r) => r.swing)?.swing
  jumpCutoff.value = hz(jump?.cutoffHz, '50')
  swingCutoff.value = hz(swing?.cutoffHz, '40')
  onset.value = jump?.onsetRule === 'back30ms' ? 'back30ms' : 'crossing'
  about.value = swing?.about === 'midfoot' ? 'midfoot' : 'combined'
})
async function saveWindows() {
  said.value = ''
  problem.value = ''
  const changed = Object.fromEntries(
    limits.value
      .filter((w) => w.source === 'set by the practice' || Number(w.from) !== w.low || Number(w.until) !== w.high)
      .map((w) => [w.key, [Number(w.from), Number(w.until)]]),
  )
  await attempt(async () => {
    await windows.mutateAsync(changed)
    said.value = 'The windows are saved.'
  })
}
async function shipped() {
  await attempt(async () => {
    await windows.mutateAsync({})
    asTheyAre()
    said.value = 'The shipped windows hold again.'
  })
}
async function anew() {
  said.value = ''
  const hz = (s: string) => (s.trim() === '' || Number(s) === 0 ? -1 : Number(s))
  await attempt(async () => {
    const r = await recompute.mutateAsync({
      jump: { cutoffHz: hz(jumpCutoff.value), onset: onset.value },
      swing: { cutoffHz: hz(swingCutoff.value), about: about.value },
    })
    said.value = `${r.done} recordings were read anew. ${r.problems.join(' ')}`
  })
}
async function attempt(what: () => Promise<void>) {
  problem.value = ''
  try {
    await what()
  } catch (e) {
    problem.value = (e as Error).message
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="820" scrollable>
    <div class="box tall">
      <h2>Windows and filters</h2>
      <p class="small quiet">
        A number outside its window is a finding. The shipped ones are common practice, from memory; set your own where
        you know better.
      </p>
      <div class="scroll">
        <table class="small">
          <thead>
            <tr>
              <th>Number</th>
              <th class="num">From</th>
              <th class="num">To</th>
              <th>Unit</th>
              <th>For</th>
              <th>Source</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="w in limits" :key="w.key">
              <th>{{ w.name }}</th>
              <td class="num">
                <input v-model="w.from" inputmode="decimal" :aria-label="`${w.name} from`" />
              </td>
              <td class="num">
                <input v-model="w.until" inputmode="decimal" :aria-label="`${w.name} to`" />
              </td>
              <td>{{ w.unit }}</td>
              <td class="quiet">{{ w.purpose }}</td>
              <td class="quiet">{{ w.source }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="row">
        <v-btn variant="flat" color="action" size="small" @click="saveWindows">Save windows</v-btn>
        <v-btn size="small" @click="shipped">Back to the shipped ones</v-btn>
      </div>
      <h3>How recordings are read</h3>
      <div class="row small">
        <label>Jumps, low-pass <input v-model="jumpCutoff" inputmode="decimal" /> Hz</label>
        <label>Swings, low-pass <input v-model="swingCutoff" inputmode="decimal" /> Hz</label>
        <span class="quiet">empty: no filter</span>
        <label
          >Onset
          <select v-model="onset">
            <option value="crossing">last crossing of body weight</option>
            <option value="back30ms">30 ms before the threshold</option>
          </select></label
        >
        <label
          >Turning moment about
          <select v-model="about">
            <option value="combined">the combined centre of pressure</option>
            <option value="midfoot">mid-foot</option>
          </select></label
        >
      </div>
      <p class="small quiet">
        All of this golfer’s recordings are read anew from the files as they came; events placed by hand stay. The
        rotational effort is the sum of both free moments and of the couple of the feet’s horizontal forces about that
        point, positive when it turns the body toward the target.
      </p>
      <div class="row">
        <v-btn size="small" :loading="recompute.isPending.value" @click="anew">Read all anew</v-btn>
        <v-btn size="small" @click="open = false">Close</v-btn>
        <span v-if="said" class="small good" role="status">{{ said }}</span>
        <span v-if="problem" class="small stop" role="alert">{{ problem }}</span>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.tall {
  overflow-y: auto;
  max-height: 88vh;
}
.scroll {
  max-height: 300px;
  overflow: auto;
}
input,
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-background));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 0 4px;
}
input {
  width: 68px;
  text-align: right;
}
th {
  text-align: left;
  font-weight: 400;
}
td,
th {
  padding: 1px 10px 1px 0;
}
</style>
