<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { vFirst } from '@/keys/first'
import { choices } from '@/parts/choices'

import { useEditBattery } from './useEditBattery'
import SelectField from '@/parts/SelectField.vue'

/** Makes or changes a test of the practice's own. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ test?: Schemas['Test']; groups: string[] }>()
const edit = useEditBattery()

const empty = (): Schemas['Test'] => ({
  id: '',
  name: '',
  group: props.groups[1] ?? 'Range',
  unit: 'cm',
  decimals: 1,
  sides: 'none',
  trials: 3,
  rule: 'best',
  setup: '',
  say: '',
  source: '',
  typicalError: 1,
  plausible: [0, 100],
  impossible: [-10, 200],
  minutes: 2,
  targets: [],
})
const form = ref(empty())
const direction = ref('more')
const target = ref<{ value?: number; spread?: number }>({})
watch(open, (is) => {
  if (!is) return
  edit.reset()
  form.value = props.test ? (JSON.parse(JSON.stringify(props.test)) as Schemas['Test']) : empty()
  direction.value = form.value.lessIsBetter ? 'less' : 'more'
  target.value = { ...form.value.targets?.[0] }
})
const qualities = choices(
  ['', 'none: shown, not scored'],
  ['mobility', 'mobility'],
  ['separation', 'separation'],
  ['control', 'control'],
  ['grip', 'grip'],
  ['maximal-strength', 'maximal strength'],
  ['vertical-power', 'vertical power'],
  ['horizontal-power', 'horizontal power'],
  ['rotational-power', 'rotational power'],
  ['ground-force', 'ground force'],
)
const units = ['kg', 'cm', 'm', 'mm', 'deg', 'm/s', 's', 'ms', 'reps', 'N', 'W', '%', 'kg/s']
const body = computed<Schemas['Test']>(() => {
  const t = { ...form.value, lessIsBetter: direction.value === 'less' }
  const g = target.value
  const scored = t.quality && g.value !== undefined && g.spread !== undefined
  return {
    ...t,
    quality: t.quality || undefined,
    // Own tests refine a quality; they do not stand for what it rests on.
    supplement: scored ? t.supplement || 0.2 : 0,
    targets: g.value !== undefined && g.spread !== undefined ? [{ value: g.value, spread: g.spread }] : [],
  }
})
async function save() {
  const ok = await edit.mutateAsync({ test: body.value }).catch(() => undefined)
  if (ok) open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="680">
    <form class="box" @submit.prevent="save">
      <h2>{{ props.test ? `Change ${props.test.name}` : 'A test of your own' }}</h2>
      <div class="form-grid">
        <v-text-field v-model="form.name" label="Name" maxlength="80" v-first />
        <v-combobox v-model="form.group" label="Heading and station" :items="props.groups" />
        <SelectField v-model="form.unit" label="Unit" :items="units" :disabled="!!props.test" />
        <SelectField
          v-model="form.sides"
          label="Sides"
          :disabled="!!props.test"
          :items="
            choices(
              ['none', 'none'],
              ['limb', 'lead and trail limb'],
              ['direction', 'toward and away from the target'],
              ['swing', 'playing and other side'],
            )
          "
        />
        <v-text-field v-model.number="form.trials" label="Trials" type="number" min="1" max="12" />
        <SelectField
          v-model="form.rule"
          label="Result"
          :items="choices(['best', 'best trial'], ['mean', 'mean of trials'], ['spread', 'spread of trials'])"
        />
        <SelectField v-model="direction" label="Better is" :items="choices(['more', 'more'], ['less', 'less'])" />
        <v-text-field v-model.number="form.decimals" label="Decimals" type="number" min="0" max="3" />
        <v-text-field
          v-model.number="form.typicalError"
          label="Test error, in its unit"
          type="number"
          step="any"
          min="0"
        />
        <v-text-field v-model.number="form.minutes" label="Minutes a golfer" type="number" step="0.5" min="0" />
        <v-text-field v-model.number="form.plausible[0]" label="Plausible from" type="number" step="any" />
        <v-text-field v-model.number="form.plausible[1]" label="Plausible to" type="number" step="any" />
        <v-text-field v-model.number="form.impossible[0]" label="Impossible below" type="number" step="any" />
        <v-text-field v-model.number="form.impossible[1]" label="Impossible above" type="number" step="any" />
        <SelectField v-model="form.quality" label="Speaks of" :items="qualities" />
        <v-checkbox v-model="form.exertion" label="Costs effort: cleared golfers only" />
        <v-text-field v-model.number="target.value" label="Target (yours)" type="number" step="any" />
        <v-text-field v-model.number="target.spread" label="Spread of the target" type="number" step="any" min="0" />
      </div>
      <v-textarea v-model="form.setup" label="Set-up: the fixed protocol" rows="2" maxlength="1000" />
      <v-text-field v-model="form.say" label="What the golfer is told" maxlength="500" />
      <p v-if="edit.error.value" class="stop" role="alert">{{ edit.error.value.message }}</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :loading="edit.isPending.value" :disabled="!form.name.trim()"
          >Save this test</v-btn
        >
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
