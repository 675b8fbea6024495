<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'

import { api, must } from '@/api/client'
import { useSquad } from '@/api/queries'
import EmptyState from '@/parts/EmptyState.vue'
import TimedRunner from '@/parts/TimedRunner.vue'
import WarmUpStrip from '@/plots/WarmUpStrip.vue'

import ItemList from './ItemList.vue'
import RequestForm from './RequestForm.vue'
import RulesRail from './RulesRail.vue'
import { stepsOf } from './steps'
import type { Request, WarmUp } from './useWarmUp'

/** One warm-up for golfers who stand in line: built anew whenever the line or the request changes. */
const { data: squad } = useSquad()
const chosen = ref<string[]>([])
const request = ref<Request>({ purpose: 'range', minutes: 15, place: 'range' })
const made = shallowRef<WarmUp>()
const problem = ref('')
const at = ref('')
const busy = ref(false)
let asked = 0
watch(
  [chosen, request],
  async () => {
    const mine = ++asked
    problem.value = ''
    if (chosen.value.length === 0) {
      made.value = undefined
      return
    }
    busy.value = true
    try {
      const got = await must(api.POST('/group-warmups', { body: { athletes: chosen.value, request: request.value } }))
      if (mine === asked) made.value = got
    } catch (e) {
      if (mine === asked) problem.value = (e as Error).message
    } finally {
      if (mine === asked) busy.value = false
    }
  },
  { deep: true },
)
const golfers = computed(() => squad.value?.athletes ?? [])
const juniors = computed(() => golfers.value.filter((g) => g.age < 18).map((g) => g.id))
function toggle(id: string) {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((x) => x !== id) : [...chosen.value, id]
}
const running = ref(false)
const steps = computed(() => stepsOf(made.value?.items ?? []))
const print = () => window.print()
const nothing = () => Promise.resolve([])
</script>

<template>
  <div class="split">
    <div class="sheet">
      <div class="row spread no-print">
        <h1>Warm-up for a group</h1>
        <div class="row">
          <v-btn size="small" :disabled="!made" @click="print">Print</v-btn>
          <v-btn size="small" variant="flat" color="action" :disabled="!steps.length" @click="running = true"
            >Run it</v-btn
          >
        </div>
      </div>
      <fieldset class="who no-print">
        <legend class="small">
          In the line
          <button v-if="juniors.length" type="button" class="plain link" @click="chosen = [...juniors]">
            all juniors
          </button>
          <button v-if="chosen.length" type="button" class="plain link" @click="chosen = []">nobody</button>
        </legend>
        <label v-for="g in golfers" :key="g.id">
          <input type="checkbox" :checked="chosen.includes(g.id)" @change="toggle(g.id)" />
          {{ g.name }} <span class="quiet small">{{ g.age }}</span>
        </label>
      </fieldset>
      <RequestForm v-model="request" class="no-print" group />
      <p v-if="problem" class="stop" role="alert">{{ problem }}</p>
      <EmptyState
        v-if="!made && !problem"
        title="Nobody in the line yet"
        text="Choose who warms up together: what they share sets the warm-up, and whoever has a limit is told what to do instead."
      />
      <template v-if="made">
        <h1 class="print-head">{{ made.title }}</h1>
        <p class="sum" data-testid="sum">
          <b class="num"
            >{{ Math.floor(made.totalSeconds / 60) }}:{{ String(made.totalSeconds % 60).padStart(2, '0') }}</b
          >
          of {{ made.request.minutes }} minutes.
        </p>
        <WarmUpStrip :warmup="made" :at="at" @choose="at = $event" />
        <ul class="notes" data-testid="group-notes">
          <li v-for="n in made.notes" :key="n">{{ n }}</li>
        </ul>
        <ItemList
          :items="made.items"
          :at="at"
          :broken="new Set()"
          :alternatives="nothing"
          fixed
          @choose="at = $event"
        />
        <p class="print-foot small">
          Not medical advice and no substitute for a licensed practitioner; local rules apply. Stop if anything hurts.
        </p>
      </template>
    </div>
    <RulesRail v-if="made" :warmup="{ ...made, notes: [] }" :busy="busy" fixed @choose="at = $event" />
    <TimedRunner v-model="running" :steps="steps" :title="made?.title ?? ''" />
  </div>
</template>

<style scoped>
.who {
  border: 0;
  padding: 0;
  margin: 10px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
}
legend {
  margin-bottom: 4px;
}
label {
  min-height: 30px;
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.link {
  text-decoration: underline;
  margin-left: 10px;
}
.sum {
  margin: 12px 0 4px;
  font-size: 1.05rem;
}
.notes {
  margin: 8px 0 14px;
  padding-left: 18px;
}
.print-head,
.print-foot {
  display: none;
}
@media (pointer: coarse) {
  label {
    min-height: 44px;
  }
}
@media print {
  .print-head,
  .print-foot {
    display: block;
  }
}
</style>
