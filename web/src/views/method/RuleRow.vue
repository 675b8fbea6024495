<script setup lang="ts">
import { ruleName } from '@/parts/rules'
import { computed, ref, watch } from 'vue'

import { type Numbers, pieces, type Rule } from './useMethod'

/** One rule: its sentence with the numbers in it, whom it catches, and changing them. */
const props = defineProps<{
  rule: Rule
  attempt: (o: { rule: string; numbers: Numbers }) => Promise<Rule>
  change: (o: { rule: string; numbers: Numbers; reason: string }) => Promise<unknown>
}>()
const numbers = ref<Numbers>({})
const tried = ref<Rule>()
const reason = ref('')
const problem = ref('')
const busy = ref(false)
watch(
  () => props.rule,
  (r) => {
    numbers.value = { ...r.numbers }
    tried.value = undefined
    reason.value = ''
    problem.value = ''
  },
  { immediate: true },
)
const changed = computed(() => Object.entries(numbers.value).some(([k, v]) => v !== props.rule.numbers[k]))
const own = computed(() => Object.entries(props.rule.numbers).some(([k, v]) => v !== props.rule.ours[k]))
const caught = computed(() => (tried.value ?? props.rule).caught)
async function run(what: () => Promise<unknown>) {
  busy.value = true
  problem.value = ''
  try {
    await what()
  } catch (e) {
    problem.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
const look = () =>
  run(async () => {
    tried.value = await props.attempt({ rule: props.rule.id, numbers: numbers.value })
  })
const save = () => run(() => props.change({ rule: props.rule.id, numbers: numbers.value, reason: reason.value }))
const putBack = () => run(() => props.change({ rule: props.rule.id, numbers: {}, reason: 'Put back to ours.' }))
</script>

<template>
  <article class="rule" :class="rule.severity" :data-testid="`rule-${rule.id}`">
    <p class="sentence">
      <strong>{{ ruleName(rule.id) }}.</strong>{{ ' '
      }}<template v-for="(p, i) in pieces(rule.template)" :key="i"
        ><span v-if="p.text">{{ p.text }}</span
        ><input
          v-else-if="p.number"
          v-model.number="numbers[p.number]"
          type="number"
          step="any"
          class="num"
          :class="{ own: rule.numbers[p.number] !== rule.ours[p.number] }"
          :title="`Ours: ${rule.ours[p.number]}`"
          :aria-label="`${ruleName(rule.id)}: ${p.number}`"
          @input="tried = undefined"
      /></template>
    </p>
    <p class="small quiet">
      {{ rule.source
      }}<template v-if="own"> · our own number <button class="plain link" @click="putBack">put back</button></template>
    </p>
    <details v-if="caught.length" class="small" :open="!!tried">
      <summary :class="{ attention: !!tried }">
        {{ tried ? 'It would catch' : 'It catches' }} {{ caught.map((c) => c.name).join(', ') }}
      </summary>
      <ul>
        <li v-for="c in caught" :key="c.athlete">
          <router-link :to="{ name: 'programme', params: { id: c.athlete, programmeId: c.programme } }">{{
            c.name
          }}</router-link>
          <template v-if="c.where">, {{ c.where }}</template
          >: {{ c.text }} <template v-if="c.more">And {{ c.more }} more.</template>
        </li>
      </ul>
    </details>
    <p v-else-if="tried" class="small good">It would catch nobody of the squad.</p>
    <form v-if="changed" class="row" @submit.prevent="save">
      <v-btn size="small" :loading="busy" @click="look">What would it catch?</v-btn>
      <input
        v-model="reason"
        class="why"
        maxlength="500"
        placeholder="Reason: kept with the change"
        aria-label="Reason"
      />
      <v-btn type="submit" size="small" variant="flat" color="action" :disabled="!reason.trim()" :loading="busy"
        >Change it</v-btn
      >
      <v-btn size="small" @click="numbers = { ...rule.numbers }">As it was</v-btn>
    </form>
    <p v-if="problem" class="stop small" role="alert">{{ problem }}</p>
  </article>
</template>

<style scoped>
.rule {
  border-left: 3px solid rgb(var(--v-theme-line));
  padding: 2px 0 2px 10px;
  margin: 10px 0;
  max-width: 900px;
}
.rule p {
  margin: 2px 0;
}
.rule.blocking {
  border-color: rgb(var(--v-theme-error));
}
.rule.warning {
  border-color: rgb(var(--v-theme-warning));
}
.sentence {
  line-height: 2;
}
.num {
  font: inherit;
  font-variant-numeric: tabular-nums;
  color: inherit;
  width: 4.2em;
  text-align: right;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 1px 4px;
  margin: 0 2px;
  min-height: 26px;
}
.num.own {
  font-weight: 700;
  border-color: rgb(var(--v-theme-action));
}
.why {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
  min-width: 260px;
}
.link {
  text-decoration: underline;
  color: rgb(var(--v-theme-action));
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
