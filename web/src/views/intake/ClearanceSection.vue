<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import AskFirst from '@/parts/AskFirst.vue'
import { choices, clearers } from '@/parts/choices'

import { allNo, answerOf, withAnswer } from './clearance'
import FormGrid from '@/parts/FormGrid.vue'
import SelectField from '@/parts/SelectField.vue'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{
  questions: Schemas['Question'][]
  status: Schemas['ClearanceStatus']
  minor: boolean
  today: string
  wrong: Record<string, string>
}>()

const answer = (id: string) => answerOf(form.value.clearance, id)
function setAnswer(id: string, yes: boolean) {
  form.value.clearance = withAnswer(form.value.clearance, props.questions, id, yes, props.today)
}
const unanswered = computed(() => props.questions.filter((q) => answer(q.id) === ''))
const open = computed(() => unanswered.value.length)
const anyYes = computed(() => form.value.clearance.yes.length > 0)

/** What is asked before it is taken away, or answered at once. */
const asking = ref<'' | 'again' | 'cleared' | 'all-no'>('')
const asked = computed({
  get: () => asking.value !== '',
  set: (open: boolean) => {
    if (!open) asking.value = ''
  },
})
const questionsToAsk = {
  again: { title: 'Ask every question again?', verb: 'Ask again' },
  cleared: { title: 'Take this clearance away?', verb: 'Take it away' },
  'all-no': { title: 'Is the answer no to each of these?', verb: 'No to all of them' },
}
const words = computed(() => questionsToAsk[asking.value || 'again'])
function answered() {
  if (asking.value === 'all-no') form.value.clearance = allNo(form.value.clearance, props.questions, props.today)
  if (asking.value === 'again') form.value.clearance = { answeredOn: '', yes: [] }
  if (asking.value === 'cleared') delete form.value.clearance.cleared
  asking.value = ''
}

function setCleared(role: string) {
  if (role !== 'doctor' && role !== 'physiotherapist') {
    if (form.value.clearance.cleared) asking.value = 'cleared'
  } else
    form.value.clearance.cleared = {
      role,
      on: form.value.clearance.cleared?.on ?? props.today,
      note: form.value.clearance.cleared?.note ?? '',
    }
}

function setGuardian(name: string) {
  if (name) form.value.consent = { guardian: name, on: form.value.consent?.on ?? props.today }
  else delete form.value.consent
}
</script>

<template>
  <section>
    <div class="row spread">
      <h2>Clearance</h2>
      <span class="row">
        <v-btn v-if="open > 0" size="small" variant="outlined" @click="asking = 'all-no'">{{
          open === props.questions.length ? 'No to all…' : 'No to the rest…'
        }}</v-btn>
        <v-btn v-if="form.clearance.answeredOn || anyYes" size="small" @click="asking = 'again'">Ask again…</v-btn>
      </span>
    </div>
    <p
      class="small"
      :class="props.status.state === 'red-flag' ? 'stop' : props.status.state === 'clear' ? 'good' : 'attention'"
      data-testid="clearance"
    >
      {{ props.status.text }}
    </p>
    <p v-if="open > 0 && open < props.questions.length" class="small quiet">{{ open }} questions are still open.</p>
    <fieldset v-for="flagged in [true, false]" :key="String(flagged)" class="questions">
      <legend class="small quiet">
        {{
          flagged
            ? 'Red flags: any yes stops everything'
            : 'Needs clearance: any yes asks for a doctor or physiotherapist'
        }}
      </legend>
      <div
        v-for="q in props.questions.filter((k) => k.redFlag === flagged)"
        :key="q.id"
        class="q"
        role="radiogroup"
        :aria-label="q.text"
      >
        <span>{{ q.text }}</span>
        <label
          ><input type="radio" :name="q.id" :checked="answer(q.id) === 'yes'" @change="setAnswer(q.id, true)" />
          Yes</label
        >
        <label
          ><input type="radio" :name="q.id" :checked="answer(q.id) === 'no'" @change="setAnswer(q.id, false)" />
          No</label
        >
      </div>
    </fieldset>
    <FormGrid v-if="anyYes">
      <v-text-field
        v-model="form.clearance.injuredOn"
        label="New injury on (answers from before it no longer hold)"
        type="date"
        :max="props.today"
        :error-messages="props.wrong['clearance.injuredOn']"
      />
      <SelectField
        :model-value="form.clearance.cleared?.role ?? ''"
        label="Cleared by"
        :items="[...choices(['', 'nobody yet']), ...clearers]"
        @update:model-value="setCleared"
      />
      <template v-if="form.clearance.cleared">
        <v-text-field
          v-model="form.clearance.cleared.on"
          label="On"
          type="date"
          :error-messages="props.wrong['clearance.cleared.on']"
        />
        <v-text-field v-model="form.clearance.cleared.note" label="What was cleared, with which limits" class="wide" />
      </template>
    </FormGrid>
    <FormGrid v-if="props.minor">
      <v-text-field
        :model-value="form.consent?.guardian ?? ''"
        label="Guardian who consents"
        @update:model-value="setGuardian"
      />
      <v-text-field
        v-if="form.consent"
        v-model="form.consent.on"
        label="Consent given on"
        type="date"
        :error-messages="props.wrong['consent.on']"
      />
    </FormGrid>
  </section>
  <AskFirst v-model="asked" :title="words.title" :verb="words.verb" @yes="answered">
    <template v-if="asking === 'all-no'">
      Read them out once more:
      <ul class="small">
        <li v-for="q in unanswered" :key="q.id">{{ q.text }}</li>
      </ul>
    </template>
    <template v-else>
      {{
        asking === 'again'
          ? 'All answers are cleared, and who cleared what with them.'
          : 'Who cleared, when, and with which limits is cleared: nothing can be issued until somebody clears again.'
      }}
      Undo, at the foot of the page, brings it back.
    </template>
  </AskFirst>
</template>

<style scoped>
.questions {
  border: 0;
  padding: 0;
  margin: 8px 0;
}
.q {
  display: grid;
  grid-template-columns: 1fr 60px 60px;
  padding: 3px 0;
  border-bottom: 1px dotted rgb(var(--v-theme-line));
  max-width: 720px;
}
</style>
