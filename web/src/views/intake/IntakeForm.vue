<script setup lang="ts">
import { ref } from 'vue'

import { useMeta, useSession } from '@/api/queries'
import { longDay } from '@/parts/days'
import { lateDialog } from '@/parts/late'
import ReasonRail from '@/parts/ReasonRail.vue'
import { useTurns } from '@/parts/turns'

import { useSquadActions } from '../squad/useSquadActions'
import ClearanceSection from './ClearanceSection.vue'
import CompetitionsSection from './CompetitionsSection.vue'
import LimitsSection from './LimitsSection.vue'
import TrainingSection from './TrainingSection.vue'
import PhotoSection from './PhotoSection.vue'
import SituationSection from './SituationSection.vue'
import { useIntake } from './useIntake'
import WhoSection from './WhoSection.vue'

const props = defineProps<{ id: string }>()
const NewGolfer = lateDialog(() => import('../squad/NewGolfer.vue'))
const EraseGolfer = lateDialog(() => import('./EraseGolfer.vue'))
const { data: meta } = useMeta()
const { data: session } = useSession()
const { golfer, form, wrong, conflict, reload, before, takeBack } = useIntake(props.id)
/** The sections from above; they are many fields. */
const SECTIONS = 7
const drawn = useTurns(() => (form.value && meta.value && session.value ? SECTIONS : 0))
const erasing = ref(false)
const following = ref(false)
const actions = useSquadActions()
const putAway = () => actions.archive.mutate({ golfers: [props.id], away: !golfer.value?.archivedOn })
</script>

<template>
  <div class="split">
    <div v-if="!(form && golfer && meta && session)" class="sheet form"><h1 class="visually-hidden">Intake</h1></div>
    <div v-else class="sheet form">
      <h1 class="visually-hidden">Intake</h1>
      <p v-if="conflict" class="stop" role="alert">
        {{ conflict }} <v-btn color="action" @click="reload">Load again</v-btn>
      </p>
      <PhotoSection :golfer="golfer" />
      <WhoSection v-model="form" :wrong="wrong" :speed="session.units.speed" />
      <ClearanceSection
        v-if="drawn > 1"
        v-model="form"
        :questions="meta.questions"
        :status="golfer.clearanceStatus"
        :minor="golfer.age < 18"
        :today="session.today"
        :wrong="wrong"
      />
      <LimitsSection
        v-if="drawn > 2"
        v-model="form"
        :regions="meta.regions"
        :kinds="meta.limitKinds"
        :standing="golfer.standing"
        :today="session.today"
        :wrong="wrong"
      />
      <TrainingSection
        v-if="drawn > 3"
        v-model="form"
        :schools="meta.schools"
        :kit="meta.kit"
        :places="meta.places"
        :wrong="wrong"
      />
      <SituationSection v-if="drawn > 4" v-model="form" :joints="meta.joints" :today="session.today" :wrong="wrong" />
      <CompetitionsSection v-if="drawn > 5" v-model="form" :today="session.today" :wrong="wrong" />
      <section v-if="drawn >= SECTIONS" class="row spread">
        <a :href="`/api/v1/athletes/${props.id}/export`" :download="`${golfer.profile.name}.json`"
          >Export everything about this golfer (JSON)</a
        >
        <v-btn @click="following = true">Another golfer like this one…</v-btn>
        <v-btn :loading="actions.archive.isPending.value" @click="putAway">{{
          golfer.archivedOn ? 'Back into the squad' : 'Put away'
        }}</v-btn>
        <v-btn color="error" @click="erasing = true">Erase this golfer…</v-btn>
      </section>
      <p v-if="golfer.archivedOn" class="small attention">
        Put away since {{ longDay(golfer.archivedOn) }}: nothing is lost, and the squad does not show them.
      </p>
      <NewGolfer v-model="following" :after="{ id: props.id, name: golfer.profile.name }" />
      <EraseGolfer v-model="erasing" :athlete-id="props.id" :name="golfer.profile.name" />
    </div>
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
.form :deep(section) {
  border-bottom: 1px solid rgb(var(--v-theme-line));
  padding: 14px 0 18px;
}
</style>
