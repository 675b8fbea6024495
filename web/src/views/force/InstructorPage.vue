<script setup lang="ts">
import { computed } from 'vue'

import { useAthlete } from '@/api/queries'
import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import OrderLine from '@/plots/OrderLine.vue'

import FindingList from './FindingList.vue'
import { useForcePage, useRecording } from './useForce'

/** One page for the swing instructor: the four answers in short, what is theirs, what the gym does about the rest. */
const props = defineProps<{ id: string }>()
const { data: golfer } = useAthlete(() => props.id)
const { data: page, error } = useForcePage(() => props.id)
const latest = computed(() => page.value?.recordings.find((r) => r.swing)?.id ?? '')
const { data: recording } = useRecording(latest)
const theirs = computed(() => page.value?.findings.filter((f) => f.instructor) ?? [])
const ours = computed(() => page.value?.findings.filter((f) => !f.instructor && f.training) ?? [])
const print = () => window.print()
</script>

<template>
  <div class="sheet page">
    <router-link :to="{ name: 'force', params: { id: props.id } }" class="no-print">Back to force</router-link>
    <div class="row spread">
      <h1>Ground force, for the swing instructor</h1>
      <v-btn v-if="recording" size="small" class="no-print" @click="print">Print</v-btn>
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <EmptyState v-if="page && !latest" title="No swing yet" text="Bring in a swing, or record one live." />
    <template v-if="recording?.swing && golfer && page">
      <p>
        {{ golfer.profile.name }}, plays from the {{ golfer.profile.playingSide }}. {{ page.swingMean?.trials }}
        {{ page.swingMean?.trials === 1 ? 'swing' : 'swings' }} of {{ longDay(page.swingOn)
        }}{{ recording.club ? ', ' + recording.club : '' }}. The last of them:
      </p>
      <OrderLine :swing="recording.swing" />
      <dl>
        <template v-for="a in recording.answers" :key="a.question">
          <dt>{{ a.question }}</dt>
          <dd>
            {{ a.sentence }} <span class="small quiet">{{ a.window }}</span>
          </dd>
        </template>
      </dl>
      <h2>Yours to judge</h2>
      <FindingList v-if="theirs.length" :findings="theirs" />
      <p v-else>Timing and shares lie in their windows.</p>
      <h2>What the gym works on</h2>
      <ul v-if="ours.length">
        <li v-for="f in ours" :key="f.key">{{ f.sentence }} {{ f.training }}</li>
      </ul>
      <p v-else>Nothing from ground force now.</p>
      <p class="small quiet">
        Windows are {{ recording.windows[0]?.source }}. Moments are about
        {{ recording.swing.about === 'midfoot' ? 'mid-foot' : 'the combined centre of pressure' }}, positive toward the
        target.
      </p>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 760px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px 12px;
}
dt {
  font-weight: 650;
}
dd {
  margin: 0;
}
h2 {
  margin-top: 16px;
}
</style>
