<script setup lang="ts">
import { mdiClose, mdiPlus } from '@mdi/js'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { useMeta, useSession } from '@/api/queries'
import AskFirst from '@/parts/AskFirst.vue'
import ReasonRail from '@/parts/ReasonRail.vue'

import SpeedField from './SpeedField.vue'
import { useIntake } from './useIntake'

const props = defineProps<{ id: string }>()
const { data: meta } = useMeta()
const { data: session } = useSession()
const { golfer, form, wrong, conflict, reload, before, takeBack } = useIntake(props.id)
const router = useRouter()
const client = useQueryClient()

const days = [
  ['mon', 'Mon'],
  ['tue', 'Tue'],
  ['wed', 'Wed'],
  ['thu', 'Thu'],
  ['fri', 'Fri'],
  ['sat', 'Sat'],
  ['sun', 'Sun'],
] as const

function toggle<T>(list: T[], item: T) {
  const at = list.indexOf(item)
  if (at < 0) list.push(item)
  else list.splice(at, 1)
}

/** Yes, no or not answered, for one clearance question. */
function answer(id: string): 'yes' | 'no' | '' {
  const c = form.value?.clearance
  if (!c) return ''
  if (c.yes.includes(id)) return 'yes'
  return c.answeredOn || c.no?.includes(id) ? 'no' : ''
}

function setAnswer(id: string, yes: boolean) {
  if (!form.value || !meta.value) return
  const c = form.value.clearance
  const noes = new Set(c.answeredOn ? [] : (c.no ?? []))
  c.yes = c.yes.filter((x) => x !== id)
  noes.delete(id)
  if (yes) c.yes.push(id)
  else noes.add(id)
  const all = meta.value.questions.every((q) => c.yes.includes(q.id) || noes.has(q.id))
  // The questions count as answered once each has an answer; a yes counts at once. Until then each no is kept.
  if ((all || yes || c.answeredOn) && session.value) c.answeredOn = session.value.today
  if (c.answeredOn || noes.size === 0) delete c.no
  else c.no = [...noes]
}
const open = computed(() => (meta.value ? meta.value.questions.filter((q) => answer(q.id) === '').length : 0))
const anyYes = computed(() => (form.value?.clearance.yes.length ?? 0) > 0)

/** What is asked before it is taken away. */
const asking = ref<'' | 'again' | 'cleared'>('')
const asked = computed({
  get: () => asking.value !== '',
  set: (open: boolean) => {
    if (!open) asking.value = ''
  },
})
function takeAway() {
  if (form.value && asking.value === 'again') form.value.clearance = { answeredOn: '', yes: [] }
  if (form.value && asking.value === 'cleared') delete form.value.clearance.cleared
  asking.value = ''
}

function setCleared(role: string) {
  if (!form.value || !session.value) return
  if (role !== 'doctor' && role !== 'physiotherapist') {
    if (form.value.clearance.cleared) asking.value = 'cleared'
  } else
    form.value.clearance.cleared = {
      role,
      on: form.value.clearance.cleared?.on ?? session.value.today,
      note: form.value.clearance.cleared?.note ?? '',
    }
}

function setShare(text: string | number) {
  if (!form.value) return
  const n = Number(text)
  if (text === '' || Number.isNaN(n)) delete form.value.otherSideShare
  else form.value.otherSideShare = Math.round(n)
}

function setGuardian(name: string) {
  if (!form.value || !session.value) return
  if (name) form.value.consent = { guardian: name, on: form.value.consent?.on ?? session.value.today }
  else delete form.value.consent
}

const erasing = ref(false)
const typed = ref('')
const erase = useMutation({
  mutationFn: () => must(api.DELETE('/athletes/{athleteId}', { params: { path: { athleteId: props.id } } })),
  onSuccess: async () => {
    await client.invalidateQueries({ queryKey: ['squad'] })
    void router.push('/')
  },
})
const label = (s: string) => s.replaceAll('-', ' ')
</script>

<template>
  <div class="split">
    <div v-if="form && golfer && meta" class="sheet form">
      <p v-if="conflict" class="stop" role="alert">
        {{ conflict }} <v-btn color="action" @click="reload">Load again</v-btn>
      </p>

      <section>
        <h2>Who</h2>
        <div class="grid">
          <v-text-field v-model="form.profile.name" label="Name" :error-messages="wrong['profile.name']" />
          <v-text-field
            v-model="form.profile.birthDate"
            label="Birth date"
            type="date"
            :error-messages="wrong['profile.birthDate']"
          />
          <v-select
            v-model="form.profile.playingSide"
            label="Plays from the"
            :items="[
              { title: 'right side', value: 'right' },
              { title: 'left side', value: 'left' },
            ]"
          />
          <v-select
            v-model="form.profile.writingHand"
            label="Writing hand"
            :items="[
              { title: 'not said', value: '' },
              { title: 'right', value: 'right' },
              { title: 'left', value: 'left' },
            ]"
          />
          <v-select
            v-model="form.profile.sex"
            label="Sex, for reference values only"
            :items="[
              { title: 'left out', value: '' },
              { title: 'female', value: 'female' },
              { title: 'male', value: 'male' },
            ]"
          />
          <v-text-field
            v-model.number="form.profile.trainingMonths"
            label="Months of regular strength training"
            type="number"
            min="0"
            :error-messages="wrong['profile.trainingMonths']"
          />
          <v-checkbox
            v-if="form.profile.trainingMonths >= 60"
            v-model="form.profile.advanced"
            label="I confirm: advanced"
          />
          <SpeedField
            v-model="form.profile.goalSpeed"
            label="Goal club speed"
            :unit="session?.units.speed ?? 'mph'"
            :error="wrong['profile.goalSpeed']"
          />
          <v-text-field
            v-model.number="form.profile.driverMassG"
            label="Driver mass (g)"
            type="number"
            min="0"
            :error-messages="wrong['profile.driverMassG']"
          />
          <v-text-field v-model="form.profile.goalText" label="Goal in their words" class="wide" />
        </div>
      </section>

      <section>
        <div class="row spread">
          <h2>Clearance</h2>
          <v-btn v-if="form.clearance.answeredOn || anyYes" size="small" @click="asking = 'again'">Ask again…</v-btn>
        </div>
        <p
          class="small"
          :class="
            golfer.clearanceStatus.state === 'red-flag'
              ? 'stop'
              : golfer.clearanceStatus.state === 'clear'
                ? 'good'
                : 'attention'
          "
          data-testid="clearance"
        >
          {{ golfer.clearanceStatus.text }}
        </p>
        <p v-if="open > 0 && open < meta.questions.length" class="small quiet">{{ open }} questions are still open.</p>
        <fieldset v-for="flagged in [true, false]" :key="String(flagged)" class="questions">
          <legend class="small quiet">
            {{
              flagged
                ? 'Red flags: any yes stops everything'
                : 'Needs clearance: any yes asks for a doctor or physiotherapist'
            }}
          </legend>
          <div
            v-for="q in meta.questions.filter((k) => k.redFlag === flagged)"
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
        <div v-if="anyYes" class="grid">
          <v-text-field
            v-model="form.clearance.injuredOn"
            label="New injury on (answers from before it no longer hold)"
            type="date"
            :max="session?.today"
            :error-messages="wrong['clearance.injuredOn']"
          />
          <v-select
            :model-value="form.clearance.cleared?.role ?? ''"
            label="Cleared by"
            :items="[
              { title: 'nobody yet', value: '' },
              { title: 'doctor', value: 'doctor' },
              { title: 'physiotherapist', value: 'physiotherapist' },
            ]"
            @update:model-value="setCleared"
          />
          <template v-if="form.clearance.cleared">
            <v-text-field
              v-model="form.clearance.cleared.on"
              label="On"
              type="date"
              :error-messages="wrong['clearance.cleared.on']"
            />
            <v-text-field
              v-model="form.clearance.cleared.note"
              label="What was cleared, with which limits"
              class="wide"
            />
          </template>
        </div>
        <div v-if="golfer.age < 18" class="grid">
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
            :error-messages="wrong['consent.on']"
          />
        </div>
      </section>

      <section>
        <div class="row spread">
          <h2>Limits</h2>
          <v-btn
            size="small"
            :prepend-icon="mdiPlus"
            @click="
              form.limits.push({ region: 'lumbar-spine', side: '', kind: 'no-impact', until: '', setBy: 'doctor' })
            "
            >Add a limit</v-btn
          >
        </div>
        <p v-if="form.limits.length === 0" class="small quiet">
          No limits. Pain of 4 or more in a screen makes one by itself.
        </p>
        <div v-for="(l, i) in form.limits" :key="i" class="limit">
          <v-select
            v-model="l.region"
            label="Region"
            :items="
              meta.regions.map((r) => ({ title: r === 'heart' ? 'heart or blood pressure' : label(r), value: r }))
            "
          />
          <v-select
            v-model="l.side"
            label="Side"
            :items="[{ title: 'not said', value: '' }, 'lead', 'trail', 'both']"
          />
          <v-select
            v-model="l.kind"
            label="Kind"
            :items="meta.limitKinds.map((k) => ({ title: label(k), value: k }))"
          />
          <v-text-field
            v-if="l.kind === 'load-cap'"
            v-model.number="l.capKg"
            label="kg"
            type="number"
            min="1"
            :error-messages="wrong[`limits[${i}].capKg`]"
          />
          <v-text-field v-model="l.until" label="Until (empty: until lifted)" type="date" />
          <v-select v-model="l.setBy" label="Set by" :items="['doctor', 'physiotherapist', 'coach']" />
          <v-btn
            :icon="mdiClose"
            size="small"
            :aria-label="`Remove limit ${i + 1}`"
            @click="form.limits.splice(i, 1)"
          />
        </div>
      </section>

      <section>
        <h2>Training</h2>
        <div class="row chips" role="group" aria-label="Days that can be trained on">
          <label v-for="[d, name] in days" :key="d"
            ><input type="checkbox" :checked="form.training.days.includes(d)" @change="toggle(form.training.days, d)" />
            {{ name }}</label
          >
        </div>
        <div class="grid">
          <v-select
            v-model="form.training.sessions"
            label="Sessions a week"
            :items="[{ title: 'not said', value: 0 }, 2, 3]"
          />
          <v-text-field
            v-model.number="form.training.minutes"
            label="Minutes a session"
            type="number"
            min="0"
            max="150"
            :error-messages="wrong['training.minutes']"
          />
          <v-text-field v-model.number="form.training.barKg" label="Empty trap bar (kg)" type="number" min="0" />
          <v-text-field
            v-model.number="form.training.plateStepKg"
            label="Smallest step on the bar (kg)"
            type="number"
            min="0"
            step="0.5"
          />
          <v-select
            v-model="form.school"
            label="School"
            :items="meta.schools.map((x) => ({ title: x.name, value: x.id }))"
          />
          <v-text-field v-model="form.startDate" label="Next programme starts (empty: Monday)" type="date" />
          <v-text-field
            :model-value="form.otherSideShare ?? ''"
            label="Swings from the other side, % (empty: the school's)"
            type="number"
            min="0"
            max="100"
            :error-messages="wrong['otherSideShare']"
            @update:model-value="setShare"
          />
        </div>
        <div class="row chips" role="group" aria-label="Kit at hand">
          <label v-for="k in meta.kit" :key="k"
            ><input type="checkbox" :checked="form.training.kit.includes(k)" @change="toggle(form.training.kit, k)" />
            {{ k }}</label
          >
        </div>
      </section>

      <section>
        <div class="row spread">
          <h2>Competitions</h2>
          <v-btn
            size="small"
            :prepend-icon="mdiPlus"
            @click="form.competitions.push({ date: session?.today ?? '', name: 'Match', peak: false })"
            >Add a competition</v-btn
          >
        </div>
        <div v-for="(c, i) in form.competitions" :key="i" class="limit">
          <v-text-field v-model="c.date" label="Date" type="date" :error-messages="wrong[`competitions[${i}]`]" />
          <v-text-field v-model="c.name" label="Name" />
          <v-checkbox v-model="c.peak" label="Peak for it" />
          <v-btn
            :icon="mdiClose"
            size="small"
            :aria-label="`Remove ${c.name}`"
            @click="form.competitions.splice(i, 1)"
          />
        </div>
      </section>

      <section class="row spread">
        <a :href="`/api/v1/athletes/${props.id}/export`" :download="`${golfer.profile.name}.json`"
          >Export everything about this golfer (JSON)</a
        >
        <v-btn color="error" @click="erasing = true">Erase this golfer…</v-btn>
      </section>
      <v-dialog v-model="erasing" max-width="460">
        <div class="box">
          <h2>Erase {{ golfer.profile.name }}?</h2>
          <p>
            Facts, screens and every programme, issued ones too, are gone for good. Export first if they may be needed.
          </p>
          <v-text-field v-model="typed" label="Type the name to erase" autofocus />
          <p v-if="erase.error.value" class="stop">{{ erase.error.value.message }}</p>
          <div class="row">
            <v-btn color="error" variant="flat" :disabled="typed !== golfer.profile.name" @click="erase.mutate()"
              >Erase</v-btn
            >
            <v-btn @click="erasing = false">Keep</v-btn>
          </div>
        </div>
      </v-dialog>
    </div>
    <AskFirst
      v-model="asked"
      :title="asking === 'again' ? 'Ask every question again?' : 'Take this clearance away?'"
      :verb="asking === 'again' ? 'Ask again' : 'Take it away'"
      @yes="takeAway"
    >
      {{
        asking === 'again'
          ? 'All answers are cleared, and who cleared what with them.'
          : 'Who cleared, when, and with which limits is cleared: nothing can be issued until somebody clears again.'
      }}
      Undo, at the foot of the page, brings it back.
    </AskFirst>
    <Teleport defer to="#foot-actions">
      <v-btn size="small" :disabled="before.length === 0" @click="takeBack">Undo</v-btn>
    </Teleport>
    <ReasonRail title="What this changes">
      <p class="small">
        Level {{ golfer?.level }} ({{ golfer?.tier }}), age band {{ golfer?.band }}: they set doses, limits and targets.
      </p>
      <p class="small quiet">
        Sex is asked for reference values and growth only, and may be left out; then tests whose target depends on it
        are not ranked.
      </p>
      <p class="small quiet">
        Dunnock does not diagnose or clear anyone. A red flag stops testing with effort and drafting; without clearance
        a draft can be made, not issued.
      </p>
      <p class="small quiet">Answers and clearance hold for 12 months or until a new injury.</p>
    </ReasonRail>
  </div>
</template>

<style scoped>
.form {
  max-width: 980px;
}
section {
  border-bottom: 1px solid rgb(var(--v-theme-line));
  padding: 14px 0 18px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(205px, 1fr));
  gap: 12px;
  margin-top: 12px;
}
.wide {
  grid-column: span 2;
}
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
.limit {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px;
  align-items: center;
  margin-top: 10px;
}
.chips {
  margin: 10px 0;
  gap: 6px 16px;
}
</style>
