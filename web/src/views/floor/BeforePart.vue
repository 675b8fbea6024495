<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'

import ChoiceRow from './ChoiceRow.vue'
import type { Readiness } from './floorOutbox'
import type { Pain } from './log'
import PainPicker from './PainPicker.vue'

/** Five answers before a session; what they propose is shown with its reasons, and the coach decides. */
const props = defineProps<{
  athleteId: string
  session: string
  ready: Readiness | undefined
  easier: boolean
  begun: boolean
}>()
const emit = defineEmits<{ answered: [answers: Readiness]; start: [easier: boolean]; skip: [] }>()

const pain = ref<string>()
const illness = ref<string>()
const sleep = ref<string>()
const soreness = ref<string>()
const eagerness = ref<string>()
const where = ref<Pain>({ region: 'lumbar-spine', level: 2 })
const soreAt = ref<string[]>([])
const flag = ref(false)

const regions = ['shoulder', 'wrist-hand', 'lumbar-spine', 'hip', 'knee', 'ankle-foot']
const questions = {
  pain: [
    { value: 'none', title: 'None' },
    { value: 'some', title: 'Somewhere' },
  ],
  illness: [
    { value: '', title: 'Well' },
    { value: 'cold', title: 'A cold' },
    { value: 'fever', title: 'Fever, chest, gut' },
  ],
  sleep: [
    { value: '', title: '7 h and more' },
    { value: 'short', title: '5 to 7 h' },
    { value: 'bad', title: 'Under 5 h' },
  ],
  soreness: [
    { value: '', title: 'None' },
    { value: 'some', title: 'Some' },
    { value: 'strong', title: 'Strong' },
    { value: 'too-sore', title: 'Too sore to swing' },
  ],
  eagerness: [
    { value: 'low', title: 'Low' },
    { value: '', title: 'As usual' },
    { value: 'high', title: 'High' },
  ],
}
watch(
  () => props.ready,
  (r) => {
    if (!r || pain.value !== undefined) return
    pain.value = r.pain?.length ? 'some' : 'none'
    if (r.pain?.[0]) where.value = { ...r.pain[0] } as Pain
    illness.value = r.illness ?? ''
    sleep.value = r.sleep ?? ''
    soreness.value = r.soreness ?? ''
    eagerness.value = r.eagerness ?? ''
    soreAt.value = r.soreAt ?? []
    flag.value = r.nightPain === true || r.legsWeak === true
  },
  { immediate: true },
)

const complete = computed(() => [pain, illness, sleep, soreness, eagerness].every((q) => q.value !== undefined))
const answers = computed<Readiness>(() => ({
  ...(pain.value === 'some' ? { pain: [where.value] } : {}),
  ...(illness.value ? { illness: illness.value as 'cold' } : {}),
  ...(sleep.value ? { sleep: sleep.value as 'short' } : {}),
  ...(soreness.value ? { soreness: soreness.value as 'some' } : {}),
  ...(soreness.value === 'strong' && soreAt.value.length ? { soreAt: soreAt.value } : {}),
  ...(eagerness.value ? { eagerness: eagerness.value as 'low' } : {}),
  ...(flag.value ? { redFlag: 'said before the session.' } : {}),
}))
const usual = computed(
  () => JSON.stringify(answers.value) === '{}' || JSON.stringify(answers.value) === '{"eagerness":"high"}',
)

const proposal = ref<Schemas['EasierSession']>()
const wrong = ref('')
const asking = ref(false)
/** Where what follows from the answers stands: it is brought into sight. */
const outcome = ref<HTMLElement | null>(null)
let asked = 0
watch([answers, complete], async () => {
  proposal.value = undefined
  wrong.value = ''
  if (!complete.value || usual.value) return
  const mine = ++asked
  asking.value = true
  try {
    const got = await must(
      api.POST('/athletes/{athleteId}/floor/{sessionId}/ease', {
        params: { path: { athleteId: props.athleteId, sessionId: props.session } },
        body: answers.value,
      }),
    )
    if (mine === asked) proposal.value = got
    await nextTick()
    outcome.value?.scrollIntoView({ block: 'start', behavior: 'smooth' })
  } catch {
    wrong.value =
      'Without a connection the easier version cannot be worked out. Until it is back: with a cold a third less and no more than 85%; under five hours of sleep a third fewer swings and jumps, one more in reserve; strongly sore half of it; pain of 4 and more: nothing that works the region; fever, chest or gut: nothing.'
  } finally {
    if (mine === asked) asking.value = false
  }
})
function go(easier: boolean) {
  emit('answered', answers.value)
  emit('start', easier)
}
function toggle(r: string) {
  soreAt.value = soreAt.value.includes(r) ? soreAt.value.filter((x) => x !== r) : [...soreAt.value, r]
}
const stop = computed(() =>
  flag.value ? 'Red flag: nothing today. Refer to a doctor now.' : (proposal.value?.stop ?? ''),
)
</script>

<template>
  <section class="before" aria-label="Before the session">
    <ChoiceRow v-model="pain" label="Pain" :choices="questions.pain" />
    <PainPicker v-if="pain === 'some'" v-model="where" />
    <ChoiceRow v-model="illness" label="Illness" :choices="questions.illness" />
    <ChoiceRow v-model="sleep" label="Sleep" :choices="questions.sleep" />
    <ChoiceRow v-model="soreness" label="Soreness" :choices="questions.soreness" />
    <div v-if="soreness === 'strong'" class="keys" role="group" aria-label="Sore where">
      <button
        v-for="r in regions"
        :key="r"
        type="button"
        class="key"
        :class="{ on: soreAt.includes(r) }"
        :aria-pressed="soreAt.includes(r)"
        @click="toggle(r)"
      >
        {{ r.replaceAll('-', ' ') }}
      </button>
    </div>
    <ChoiceRow v-model="eagerness" label="Eagerness" :choices="questions.eagerness" />
    <label class="flag"
      ><input v-model="flag" type="checkbox" /> Night pain, new chest pain, fainting, weak or numb legs</label
    >

    <span ref="outcome" />
    <div v-if="stop" class="stopped" role="alert">
      <strong>{{ stop }}</strong>
      <p>Nothing is trained. The session can be noted as missed.</p>
      <v-btn size="large" variant="outlined" @click="emit('answered', answers)">Note the answers</v-btn>
    </div>
    <template v-else-if="complete">
      <p v-if="wrong" class="attention" role="status">{{ wrong }}</p>
      <div v-else-if="proposal && proposal.changes.length" class="proposal">
        <h2>An easier version is proposed</h2>
        <ul>
          <li v-for="c in proposal.changes" :key="c.item">
            <strong>{{ c.name }}</strong><br />
            <span class="quiet">{{ c.was }}</span> → {{ c.now }}<br />
            <span class="why">{{ c.why }}</span>
          </li>
        </ul>
        <p v-if="proposal.swingsMove" class="attention">The swings move to another day of this week.</p>
        <p v-if="proposal.refer" class="attention">{{ proposal.refer }}</p>
      </div>
      <p v-else-if="proposal" class="quiet">Nothing has to change for that.</p>
      <div class="go">
        <template v-if="proposal && proposal.changes.length">
          <v-btn size="x-large" variant="flat" color="action" @click="go(true)">Take the easier version</v-btn>
          <v-btn size="x-large" variant="outlined" @click="go(false)">As planned</v-btn>
        </template>
        <v-btn v-else size="x-large" variant="flat" color="action" :disabled="asking" @click="go(false)">{{
          props.begun ? 'Go on' : 'Start'
        }}</v-btn>
      </div>
    </template>
    <div v-else class="go">
      <v-btn size="large" variant="text" @click="emit('skip')">Start without asking</v-btn>
    </div>
  </section>
</template>

<style scoped>
.before {
  display: grid;
  gap: 10px;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.key {
  font: inherit;
  font-size: 18px;
  flex: 1 1 auto;
  min-height: 44px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.flag {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
  font-size: 18px;
}
.flag input {
  width: 22px;
  height: 22px;
  flex: none;
}
.stopped {
  border-left: 4px solid rgb(var(--v-theme-error));
  padding: 8px 12px;
  font-size: 18px;
}
.proposal ul {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
  display: grid;
  gap: 8px;
  font-size: 18px;
}
.why {
  font-size: 18px;
}
.go {
  display: grid;
  gap: 8px;
  position: sticky;
  bottom: 0;
  padding: 8px 0;
  background: rgb(var(--v-theme-background));
}
</style>
