<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { vFirst } from '@/keys/first'
import { choices, clearers } from '@/parts/choices'
import { longDay } from '@/parts/days'
import FactRows from '@/parts/FactRows.vue'
import { LateDialog } from '@/parts/late'
import { spaced } from '@/parts/words'

import type { Form } from './useIntake'
import SelectField from '@/parts/SelectField.vue'

/** What the golfer must not do: limits that were set, and those that pain on a test left in force. */
const form = defineModel<Form>({ required: true })
const props = defineProps<{
  regions: string[]
  kinds: Schemas['LimitKind'][]
  standing: Schemas['StandingLimit'][]
  today: string
  wrong: Record<string, string>
}>()
type Limit = Schemas['AthleteChange']['limits'][number]
const fresh = (): Limit => ({ region: 'lumbar-spine', side: '', kind: 'no-impact', until: '', setBy: 'doctor' })

const ending = ref<Schemas['StandingLimit']>()
const why = ref('')
const asked = computed({
  get: () => ending.value !== undefined,
  set: (open: boolean) => {
    if (!open) ending.value = undefined
  },
})
function end() {
  const limit = ending.value
  if (!limit || !why.value.trim()) return
  form.value.situation.endedLimits.push({
    region: limit.region,
    side: limit.side as '',
    on: props.today,
    why: why.value.trim(),
  })
  why.value = ''
  ending.value = undefined
}
/** A limit that was ended here and not yet saved is not offered again. */
const ended = (l: Schemas['StandingLimit']) =>
  form.value.situation.endedLimits.some((e) => e.region === l.region && (e.side ?? '') === l.side && e.on >= l.since)
</script>

<template>
  <FactRows
    v-model="form.limits"
    title="Limits"
    add="Add a limit"
    :fresh="fresh"
    :named="(_, i) => `limit ${i + 1}`"
    :none="props.standing.length ? '' : 'No limits. Pain of 4 or more in a screen makes one by itself.'"
  >
    <template #default="{ row: l, i }">
      <SelectField
        v-model="l.region"
        label="Region"
        :items="props.regions.map((r) => ({ title: r === 'heart' ? 'heart or blood pressure' : spaced(r), value: r }))"
      />
      <SelectField
        v-model="l.side"
        label="Side"
        :items="choices(['', 'not said'], ['lead', 'lead'], ['trail', 'trail'], ['both', 'both'])"
      />
      <SelectField v-model="l.kind" label="Kind" :items="props.kinds.map((k) => ({ title: spaced(k), value: k }))" />
      <v-text-field
        v-if="l.kind === 'load-cap'"
        v-model.number="l.capKg"
        label="kg"
        type="number"
        min="1"
        :error-messages="props.wrong[`limits[${i}].capKg`]"
      />
      <v-text-field v-model="l.until" label="Until (empty: until lifted)" type="date" />
      <SelectField v-model="l.setBy" label="Set by" :items="[...clearers, ...choices(['coach', 'coach'])]" />
    </template>
  </FactRows>
  <ul v-if="props.standing.length" class="standing" data-testid="standing">
    <li v-for="l in props.standing" :key="l.region + l.side" class="row spread small">
      <span class="stop">{{ l.text }}</span>
      <v-btn v-if="l.mayEnd && !ended(l)" size="small" @click="ending = l">End this limit…</v-btn>
      <span v-else-if="!l.mayEnd" class="quiet">Ends with a clearance only.</span>
    </li>
  </ul>
  <ul v-if="form.situation.endedLimits.length" class="standing small quiet">
    <li v-for="(e, i) in form.situation.endedLimits" :key="i" class="row spread">
      <span>{{ spaced(e.region) }}{{ e.side ? `, ${e.side}` : '' }}: ended on {{ longDay(e.on) }}, {{ e.why }}</span>
      <v-btn size="small" @click="form.situation.endedLimits.splice(i, 1)">Let it stand again</v-btn>
    </li>
  </ul>
  <LateDialog v-model="asked" max-width="460">
    <form class="box" @submit.prevent="end">
      <h2>End this limit?</h2>
      <p>{{ ending?.text }}</p>
      <p class="small quiet">
        It ends by itself once the same test, or one as hard, is done with pain below 4 that does not rise.
      </p>
      <v-text-field v-model="why" label="Why it may end" maxlength="500" v-first />
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :disabled="!why.trim()">End it</v-btn>
        <v-btn @click="ending = undefined">Leave it</v-btn>
      </div>
    </form>
  </LateDialog>
</template>

<style scoped>
.standing {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
.standing li {
  padding: 4px 0;
}
</style>
