<script setup lang="ts">
import { computed, ref } from 'vue'

import { dayAndYear } from '@/parts/days'
import { ruleName } from '@/parts/rules'

import RuleRow from './RuleRow.vue'
import { useRules } from './useMethod'

const { data, error, attempt, change } = useRules()
const find = ref('')
const only = ref<'all' | 'caught' | 'changed'>('all')
const isOwn = (numbers: Record<string, number>, ours: Record<string, number>) =>
  Object.entries(numbers).some(([k, v]) => ours[k] !== v)
const shown = computed(() =>
  (data.value?.rules ?? []).filter(
    (r) =>
      (only.value === 'all' || (only.value === 'caught' ? r.caught.length > 0 : isOwn(r.numbers, r.ours))) &&
      (ruleName(r.id) + r.sentence).toLowerCase().includes(find.value.toLowerCase()),
  ),
)
const groups: [string, string][] = [
  ['blocking', 'Never issued when broken'],
  ['warning', 'Issued with a reason'],
  ['advice', 'Advice'],
]
const words = (numbers: Record<string, number>) => Object.values(numbers).join(', ')
</script>

<template>
  <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
  <p class="small quiet">
    The generator keeps to these numbers, and every programme is judged by them. A number you change holds for the whole
    practice from the next draft on; what was issued stays as it was judged.
  </p>
  <div class="row tools">
    <input v-model="find" class="find" type="search" placeholder="Find a rule" aria-label="Find a rule" />
    <label class="small"><input v-model="only" type="radio" value="all" /> all</label>
    <label class="small"><input v-model="only" type="radio" value="caught" /> catching somebody now</label>
    <label class="small"><input v-model="only" type="radio" value="changed" /> with our own numbers</label>
  </div>
  <section v-for="[severity, title] in groups" :key="severity">
    <template v-if="shown.some((r) => r.severity === severity)">
      <h2>{{ title }}</h2>
      <RuleRow
        v-for="r in shown.filter((x) => x.severity === severity)"
        :key="r.id"
        :rule="r"
        :attempt="attempt.mutateAsync"
        :change="change.mutateAsync"
      />
    </template>
  </section>
  <p v-if="data && shown.length === 0" class="quiet">No rule is like that.</p>
  <section v-if="data?.journal.length">
    <h2>What was changed</h2>
    <ul class="journal small" data-testid="journal">
      <li v-for="(j, i) in data.journal" :key="i">
        {{ dayAndYear(j.at.slice(0, 10)) }}, {{ j.by }}: <strong>{{ ruleName(j.rule) }}</strong> from
        {{ words(j.before) }} to {{ words(j.after) }}. {{ j.reason }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.tools {
  margin: 8px 0;
  gap: 14px;
}
.find {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 5px 8px;
  min-width: 220px;
}
h2 {
  margin-top: 20px;
}
.journal {
  padding-left: 18px;
}
</style>
