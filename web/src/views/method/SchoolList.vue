<script setup lang="ts">
import { ref } from 'vue'

import AskFirst from '@/parts/AskFirst.vue'
import ZoneBar from '@/plots/ZoneBar.vue'
import { late } from '@/parts/late'

import { listed, nextWords, qualities, type School, useSchools, zones, zoneWords } from './useMethod'

const SchoolEditor = late(() => import('./SchoolEditor.vue'))

const { data, error, save, remove } = useSchools()
const editing = ref<School>()
const going = ref<School>()
const problem = ref('')
const shares = (s: number[]) => Object.fromEntries(zones.map((z, i) => [z, s[i] ?? 0]))
const copyOf = (s: School): School => JSON.parse(JSON.stringify(s)) as School
function copy(s: School) {
  problem.value = ''
  editing.value = { ...copyOf(s), id: '', name: `${s.name}, ours` }
}
function change(s: School) {
  problem.value = ''
  editing.value = copyOf(s)
}
async function keep(s: School) {
  try {
    await save.mutateAsync(s)
    editing.value = undefined
  } catch (e) {
    problem.value = (e as Error).message
  }
}
async function drop() {
  const s = going.value
  if (!s) return
  try {
    await remove.mutateAsync(s.id)
    going.value = undefined
  } catch (e) {
    problem.value = (e as Error).message
  }
}
/** What weighs most, in the order it weighs. */
const weighs = (s: School) =>
  [...qualities]
    .sort((a, b) => (s.relevance[b[0]] ?? 0) - (s.relevance[a[0]] ?? 0))
    .slice(0, 4)
    .map(([, name]) => name.toLowerCase())
    .join(', ')
</script>

<template>
  <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
  <p class="small quiet">
    A school says what may lead, what is raised, and where free minutes go. The bars are its sets by zone, fast and
    light to strength and range, off-season. Safety, floors and the ranges of the doses are the same in all of them. Two
    are laid side by side for a golfer under <em>Compare schools</em> in the programme.
  </p>
  <p v-if="problem && !editing" class="stop" role="alert">{{ problem }}</p>
  <article v-for="x in data ?? []" :key="x.school.id" class="school" :data-testid="`school-${x.school.id}`">
    <div class="row spread">
      <h2>{{ x.school.name }} <span v-if="x.own" class="small quiet">own</span></h2>
      <div class="row">
        <v-btn size="small" @click="copy(x.school)">Copy and change…</v-btn>
        <v-btn v-if="x.own" size="small" @click="change(x.school)">Change…</v-btn>
        <v-btn v-if="x.own" size="small" @click="((problem = ''), (going = x.school))">Remove…</v-btn>
      </div>
    </div>
    <p>{{ x.school.logic }}</p>
    <div class="cols">
      <dl class="small">
        <dt>For</dt>
        <dd>
          {{ x.school.fits }} <template v-if="x.school.fitsNot"><b>Not:</b> {{ x.school.fitsNot }}</template>
        </dd>
        <dt>Weighs most</dt>
        <dd>{{ weighs(x.school) }}</dd>
        <dt>Swings</dt>
        <dd>
          {{ x.school.otherSideShare }}% from the other side, clubs from {{ x.school.implements[0] }}% to
          {{ x.school.implements[1] }}% of the driver
        </dd>
        <dt>Trained by</dt>
        <dd>{{ x.users.join(', ') || 'nobody' }}</dd>
      </dl>
      <div>
        <p v-if="x.school.next" class="small quiet">{{ nextWords[x.school.next] }}</p>
        <div v-for="(st, i) in x.school.stages" :key="i" class="stage small">
          <span v-if="x.school.stages.length > 1" class="num">{{ i + 1 }}. </span>
          {{ st.lead.length ? `${listed(st.lead)} may lead` : 'nothing leads'
          }}<template v-if="st.raise.length">; raises {{ listed(st.raise) }}</template>
          <ZoneBar :shares="shares(st.zones[0] ?? [])" :words="zoneWords" />
        </div>
      </div>
    </div>
    <details class="small">
      <summary>What it rests on</summary>
      <ul>
        <li v-for="c in x.school.claims" :key="c">{{ c }}</li>
      </ul>
    </details>
  </article>
  <SchoolEditor v-if="editing" v-model="editing" :problem="problem" :busy="save.isPending.value" @save="keep" />
  <AskFirst
    :model-value="!!going"
    title="Remove this school?"
    verb="Remove it"
    :busy="remove.isPending.value"
    :error="problem"
    @update:model-value="going = undefined"
    @yes="drop"
  >
    {{ going?.name }} goes for good. Programmes that were issued under it stay as they are.
  </AskFirst>
</template>

<style scoped>
.school {
  border-top: 2px solid rgb(var(--v-theme-line));
  padding: 10px 0;
  margin-top: 12px;
}
.school h2 {
  margin: 0;
}
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
}
@media (max-width: 760px) {
  .cols {
    grid-template-columns: 1fr;
  }
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 3px 12px;
  margin: 0;
  align-content: start;
}
dt {
  font-weight: 650;
}
dd {
  margin: 0;
}
.stage {
  margin-bottom: 6px;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
