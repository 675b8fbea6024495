<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useBattery } from '@/api/queries'
import { useAddress } from '@/parts/address'
import { lateDialog } from '@/parts/late'

import TestFacts from './TestFacts.vue'
import TestTargets from './TestTargets.vue'
import { useEditBattery } from './useEditBattery'

const OwnTest = lateDialog(() => import('./OwnTest.vue'))
const OwnSet = lateDialog(() => import('./OwnSet.vue'))

const { data: battery, error } = useBattery()
const edit = useEditBattery()
const chosen = useAddress('test')
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
const names = computed(() => new Map(tests.value.map((t) => [t.id, t.name])))
const minutes = (s: Schemas['TestSet']) =>
  Math.round(
    (s.tests.length ? s.tests : tests.value.map((t) => t.id)).reduce(
      (n, id) => n + (tests.value.find((t) => t.id === id)?.minutes ?? 0),
      0,
    ),
  )

watch(test, () => edit.reset())
async function keep(targets: Schemas['Target'][], reset = false) {
  if (!test.value) return
  const change = test.value.own
    ? { test: { ...test.value, targets } }
    : { targets: { test: test.value.id, targets, reset } }
  await edit.mutateAsync(change).catch(() => undefined)
}
</script>

<template>
  <div class="sheet">
    <div class="row spread">
      <h1>Tests and batteries</h1>
      <div class="row">
        <input v-model="filter" type="search" class="plain filter" placeholder="Find a test" aria-label="Find a test" />
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
    <div v-if="battery" class="two">
      <nav class="tests" aria-label="Tests">
        <template v-for="g in groups" :key="g">
          <h2 v-if="shown.some((t) => t.group === g)">{{ g }}</h2>
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
        <TestFacts :test="test" />
        <TestTargets :test="test" @keep="keep" @reset="keep([], true)" />
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
.tests {
  max-height: 70vh;
  overflow: auto;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 240px minmax(0, 1fr);
  }
}
/* On a phone the list is short, so that what is chosen stands below it. */
@media (max-width: 640px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .tests {
    max-height: 34vh;
  }
}
.tests h2 {
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
</style>
