<script setup lang="ts">
import { computed } from 'vue'

import { listed, qualities, qualityName, type School, zones, zoneWords } from './useMethod'

/** A school of one's own: a copy, with other words and numbers. */
const school = defineModel<School | undefined>({ required: true })
const props = defineProps<{ problem: string; busy: boolean }>()
const emit = defineEmits<{ save: [school: School] }>()
const s = computed(() => school.value as School)
const phases = ['off-season', 'pre-season', 'in season']
const sum = (list: number[]) => list.reduce((a, b) => a + (Number(b) || 0), 0)
const wrong = computed(() =>
  s.value.stages.flatMap((st, i) =>
    st.zones.flatMap((z, p) =>
      sum(z) === 100 ? [] : [`Stage ${i + 1}, ${phases[p]}: the shares add up to ${sum(z)}.`],
    ),
  ),
)
function toggle(list: string[], id: string) {
  const at = list.indexOf(id)
  if (at >= 0) list.splice(at, 1)
  else list.push(id)
}
const claims = computed({
  get: () => s.value.claims.join('\n'),
  set: (v: string) => (s.value.claims = v.split('\n').filter((x) => x.trim())),
})
</script>

<template>
  <v-dialog :model-value="true" max-width="860" scrollable @update:model-value="school = undefined">
    <form class="box" @submit.prevent="emit('save', s)">
      <h2>{{ s.id ? 'Change a school of your own' : 'A school of your own' }}</h2>
      <v-text-field v-model="s.name" label="Name" maxlength="60" />
      <v-textarea v-model="s.logic" label="Its logic, in a sentence" rows="2" auto-grow maxlength="500" />
      <v-text-field v-model="s.fits" label="For whom" maxlength="300" />
      <v-textarea v-model="claims" label="What it rests on, a line each" rows="2" auto-grow />
      <h3>How much each quality weighs, 0 to 1</h3>
      <div class="grid">
        <label v-for="[id, name] in qualities" :key="id" class="small"
          >{{ name }}<input v-model.number="s.relevance[id]" type="number" min="0" max="1" step="0.1"
        /></label>
      </div>
      <h3>Swings</h3>
      <div class="grid">
        <label class="small"
          >Other side, %<input v-model.number="s.otherSideShare" type="number" min="0" max="100"
        /></label>
        <label class="small">Lightest club, %<input v-model.number="s.implements[0]" type="number" /></label>
        <label class="small">Heaviest club, %<input v-model.number="s.implements[1]" type="number" /></label>
        <label class="small"
          >Look-alikes, % of sets<input v-model.number="s.specialPercent" type="number" min="0" max="100"
        /></label>
      </div>
      <section v-for="(st, i) in s.stages" :key="i">
        <h3>{{ s.stages.length > 1 ? `Stage ${i + 1}` : 'What leads' }}</h3>
        <p class="small">
          May lead: <b>{{ listed(st.lead) }}</b>
        </p>
        <p class="taps small">
          <label v-for="id in ['*', ...qualities.map((q) => q[0])]" :key="id"
            ><input type="checkbox" :checked="st.lead.includes(id)" @change="toggle(st.lead, id)" />
            {{ qualityName(id).toLowerCase() }}</label
          >
        </p>
        <p class="small">Raised, short or not (at most two take effect):</p>
        <p class="taps small">
          <label v-for="[id, name] in qualities" :key="id"
            ><input type="checkbox" :checked="st.raise.includes(id)" @change="toggle(st.raise, id)" />
            {{ name.toLowerCase() }}</label
          >
        </p>
        <table class="small">
          <thead>
            <tr>
              <th>Sets by zone, %</th>
              <th v-for="z in zones" :key="z" :title="zoneWords[z]">{{ z }}</th>
              <th>sum</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, p) in st.zones" :key="p">
              <th>{{ phases[p] }}</th>
              <td v-for="(z, k) in zones" :key="z">
                <input
                  v-model.number="row[k]"
                  type="number"
                  min="0"
                  max="100"
                  class="share"
                  :aria-label="`Stage ${i + 1}, ${phases[p]}, ${zoneWords[z]}`"
                />
              </td>
              <td class="num" :class="{ stop: sum(row) !== 100 }">{{ sum(row) }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <p v-for="w in wrong" :key="w" class="stop small">{{ w }}</p>
      <p v-if="props.problem" class="stop" role="alert">{{ props.problem }}</p>
      <div class="row">
        <v-btn
          type="submit"
          variant="flat"
          color="action"
          :disabled="wrong.length > 0 || !s.name.trim()"
          :loading="props.busy"
          >Save</v-btn
        >
        <v-btn @click="school = undefined">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.box {
  max-height: 88vh;
  overflow-y: auto;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
  gap: 8px;
}
.grid label {
  display: grid;
}
input[type='number'] {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
  width: 100%;
}
.share {
  max-width: 62px;
}
.taps {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 2px 0 8px;
}
th {
  text-align: left;
  padding-right: 8px;
  font-weight: 550;
}
h3 {
  margin-top: 12px;
}
</style>
