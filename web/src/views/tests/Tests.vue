<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useBattery } from '@/api/queries'

import OwnSet from './OwnSet.vue'
import OwnTest from './OwnTest.vue'
import { useEditBattery } from './useEditBattery'

const { data: battery, error } = useBattery()
const edit = useEditBattery()
const chosen = ref('')
const filter = ref('')
const tests = computed(() => battery.value?.tests ?? [])
const test = computed(() => tests.value.find((t) => t.id === chosen.value) ?? tests.value[0])
const groups = computed(() => [...new Set(tests.value.map((t) => t.group))])
const shown = computed(() => {
  const w = filter.value.toLowerCase().trim()
  return tests.value.filter((t) => (t.name + ' ' + t.group).toLowerCase().includes(w))
})
const making = ref(false)
const changing = ref<Schemas['Test'] | undefined>()
const setting = ref(false)
const set = ref<Schemas['TestSet'] | undefined>()
const unit = (t: Schemas['Test']) => (t.unit === 'deg' ? '°' : t.unit)
const sideWords = {
  none: 'no sides',
  limb: 'lead and trail',
  direction: 'toward and away',
  swing: 'playing and other side',
}
const ruleWords = {
  best: 'best trial',
  mean: 'mean of the trials',
  'one-rm': 'best predicted single, over body mass',
  spread: 'spread (SD) of the shots',
  ladder: 'fastest swing; a line through the masses',
  derived: 'computed',
}
const names = computed(() => new Map(tests.value.map((t) => [t.id, t.name])))
const minutes = (s: Schemas['TestSet']) =>
  Math.round(
    (s.tests.length ? s.tests : tests.value.map((t) => t.id)).reduce(
      (n, id) => n + (tests.value.find((t) => t.id === id)?.minutes ?? 0),
      0,
    ),
  )

/** Targets as they are typed, before they are kept. */
const targets = ref<Schemas['Target'][]>([])
const dirty = ref(false)
watch(
  test,
  (t) => {
    targets.value = (t?.targets ?? []).map((g) => ({ sex: '', band: '', ...g }))
    dirty.value = false
    edit.reset()
  },
  { immediate: true },
)
async function keep(reset: boolean) {
  if (!test.value) return
  if (test.value.own) await edit.mutateAsync({ test: { ...test.value, targets: targets.value } }).catch(() => undefined)
  else
    await edit
      .mutateAsync({ targets: { test: test.value.id, targets: reset ? [] : targets.value, reset } })
      .catch(() => undefined)
  dirty.value = false
}
</script>

<template>
  <div class="sheet">
    <div class="row spread">
      <h1>Tests and batteries</h1>
      <div class="row">
        <v-text-field v-model="filter" label="Find a test" class="filter" clearable @click:clear="filter = ''" />
        <v-btn
          variant="flat"
          color="action"
          :prepend-icon="mdiPlus"
          @click="
            () => {
              changing = undefined
              making = true
            }
          "
          >A test of your own</v-btn
        >
        <v-btn
          :prepend-icon="mdiPlus"
          @click="
            () => {
              set = undefined
              setting = true
            }
          "
          >A battery of your own</v-btn
        >
      </div>
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <section class="sets">
      <div v-for="s in battery?.sets ?? []" :key="s.id" class="set">
        <strong>{{ s.name }}</strong>
        <span class="small quiet">{{ s.tests.length || 'all' }} tests, about {{ minutes(s) }} min</span>
        <p class="small">{{ s.note || s.tests.map((t) => names.get(t) ?? t).join(', ') }}</p>
        <v-btn
          size="small"
          @click="
            () => {
              set = s
              setting = true
            }
          "
          >{{ s.own ? 'Change' : 'Make your own from it' }}</v-btn
        >
        <v-btn v-if="s.own" size="small" @click="edit.mutate({ removeSet: s.id })">Remove</v-btn>
      </div>
    </section>
    <div class="two">
      <nav class="tests" aria-label="Tests">
        <template v-for="g in groups" :key="g">
          <h3 v-if="shown.some((t) => t.group === g)">{{ g }}</h3>
          <button
            v-for="t in shown.filter((x) => x.group === g)"
            :key="t.id"
            class="plain"
            :class="{ on: t.id === test?.id }"
            :aria-current="t.id === test?.id"
            @click="chosen = t.id"
          >
            {{ t.name }} <span v-if="t.own" class="small quiet">own</span
            ><span v-if="t.ownTarget" class="small quiet"> your target</span>
          </button>
        </template>
        <p v-if="shown.length === 0" class="quiet">No test matches “{{ filter }}”.</p>
      </nav>
      <article v-if="test" class="page">
        <div class="row spread">
          <h2>{{ test.name }}</h2>
          <div v-if="test.own" class="row">
            <v-btn
              size="small"
              @click="
                () => {
                  changing = test
                  making = true
                }
              "
              >Change</v-btn
            >
            <v-btn size="small" @click="edit.mutate({ removeTest: test.id })">Remove</v-btn>
          </div>
        </div>
        <dl>
          <dt>Set-up</dt>
          <dd>{{ test.setup }}</dd>
          <template v-if="test.say">
            <dt>Say</dt>
            <dd class="say">“{{ test.say }}”</dd>
          </template>
          <dt>Trials</dt>
          <dd>
            {{ test.trials || 'none to type' }}, {{ sideWords[test.sides] }}; result: {{ ruleWords[test.rule]
            }}<template v-if="test.restS">; {{ test.restS }} s rest</template>
            <template v-if="test.minutes">; about {{ test.minutes }} min a golfer</template>
          </dd>
          <template v-if="test.voids?.length">
            <dt>Does not count</dt>
            <dd>{{ test.voids.join('; ') }}</dd>
          </template>
          <template v-if="test.variants?.length">
            <dt>Ways of doing it</dt>
            <dd>
              {{ test.variants.map((v) => v.name + (v.for ? '' : ' (no target)')).join(', ') }}; only the same way is
              compared
            </dd>
          </template>
          <dt>Limits</dt>
          <dd class="num">
            asked about outside {{ test.plausible[0] }} to {{ test.plausible[1] }} {{ unit(test) }}; refused outside
            {{ test.impossible[0] }} to {{ test.impossible[1] }}
          </dd>
          <dt>Test error</dt>
          <dd>
            {{ test.errorIsShare ? `${(test.typicalError * 100).toFixed(1)}%` : `${test.typicalError} ${unit(test)}` }}:
            {{ test.errorFrom || 'our default' }}
          </dd>
          <dt>Source</dt>
          <dd>{{ test.source }}</dd>
        </dl>
        <h3>
          Targets <span class="small quiet">{{ test.ownTarget || test.own ? 'yours' : 'ours' }}</span>
        </h3>
        <table v-if="targets.length" class="small">
          <thead>
            <tr>
              <th>Sex</th>
              <th>Age</th>
              <th>Target {{ test.rule === 'one-rm' ? '× body mass' : unit(test) }}</th>
              <th>Spread</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(g, i) in targets" :key="i">
              <td>
                <select v-model="g.sex" :aria-label="`Sex of target ${i + 1}`" @change="dirty = true">
                  <option value="">either</option>
                  <option value="male">male</option>
                  <option value="female">female</option>
                </select>
              </td>
              <td>
                <select v-model="g.band" :aria-label="`Age of target ${i + 1}`" @change="dirty = true">
                  <option value="">any other</option>
                  <option v-for="b in ['13-17', '18-39', '40-59', '60+']" :key="b" :value="b">{{ b }}</option>
                </select>
              </td>
              <td>
                <input
                  v-model.number="g.value"
                  type="number"
                  step="any"
                  :aria-label="`Target ${i + 1}`"
                  @input="dirty = true"
                />
              </td>
              <td>
                <input
                  v-model.number="g.spread"
                  type="number"
                  step="any"
                  :aria-label="`Spread ${i + 1}`"
                  @input="dirty = true"
                />
              </td>
              <td>
                <v-btn
                  size="small"
                  @click="
                    () => {
                      targets.splice(i, 1)
                      dirty = true
                    }
                  "
                  >Remove</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="small quiet">
          {{
            test.id === 'grip'
              ? 'The target comes from the published table by age, sex and hand.'
              : 'No target: the result is shown beside the squad and the golfer’s own past, and not scored.'
          }}
        </p>
        <div v-if="test.rule !== 'derived'" class="row">
          <v-btn
            size="small"
            @click="
              () => {
                targets.push({ sex: '', band: '', value: 0, spread: 1 })
                dirty = true
              }
            "
            >Add a target</v-btn
          >
          <v-btn v-if="dirty" size="small" color="action" variant="flat" @click="keep(false)">Keep these targets</v-btn>
          <v-btn v-if="test.ownTarget" size="small" @click="keep(true)">Back to ours</v-btn>
        </div>
        <p v-if="edit.error.value" class="stop" role="alert">{{ edit.error.value.message }}</p>
      </article>
    </div>
    <OwnTest v-model="making" :test="changing" :groups="groups" />
    <OwnSet v-model="setting" :set="set" :tests="tests" />
  </div>
</template>

<style scoped>
.filter {
  width: 200px;
}
.sets {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(186px, 1fr));
  gap: 4px 22px;
  margin: 8px 0 12px;
}
.set {
  border-top: 2px solid rgb(var(--v-theme-line));
  padding-top: 4px;
}
.set strong {
  display: block;
}
.set p {
  margin: 2px 0;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.two {
  display: grid;
  grid-template-columns: 300px 1fr;
  gap: 28px;
  border-top: 1px solid rgb(var(--v-theme-line));
  padding-top: 10px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
.tests {
  max-height: 70vh;
  overflow: auto;
}
.tests h3 {
  color: rgb(var(--v-theme-secondary));
  margin-top: 8px;
}
.tests button {
  display: block;
  width: 100%;
  padding: 3px 8px;
}
.tests button.on {
  background: rgb(var(--v-theme-surface));
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-action));
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 5px 12px;
  max-width: 820px;
}
dt {
  color: rgba(var(--v-theme-on-surface), 0.76);
}
dd {
  margin: 0;
}
dd.num {
  white-space: normal;
}
.say {
  font-style: italic;
}
td,
th {
  text-align: left;
  padding: 2px 12px 2px 0;
}
td input,
td select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 3px 5px;
  width: 104px;
}
</style>
