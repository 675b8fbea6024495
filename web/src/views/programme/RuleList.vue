<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { ruleName, weight } from '@/parts/rules'

const props = defineProps<{ rules: Schemas['RuleResult'][]; editable?: boolean; busy?: boolean }>()
const emit = defineEmits<{ go: [id: string]; mend: [rule: string, at: string] }>()
/** Nothing at one click clears a golfer or tests one. */
const byHand = ['CLEAR', 'COVERAGE']

const broken = computed(() => props.rules.filter((r) => r.status === 'broken'))
const unchecked = computed(() => props.rules.filter((r) => r.status === 'not-checked'))
const met = computed(() => props.rules.filter((r) => r.status === 'met'))
</script>

<template>
  <p class="small" data-testid="rule-summary">
    <template v-if="broken.length === 0">Every rule that could be checked is kept.</template>
    <template v-else>{{ broken.length }} {{ broken.length === 1 ? 'place breaks' : 'places break' }} a rule.</template>
  </p>
  <div v-for="(r, i) in broken" :key="i" class="rule small" :class="r.severity">
    <strong>{{ ruleName(r.rule) }}</strong> <span class="quiet">{{ weight[r.severity] }}</span>
    <button v-if="r.at && r.place?.includes('.i')" class="plain link" @click="emit('go', r.at)">{{ r.where }}</button>
    <span v-else-if="r.where" class="quiet">{{ r.where }}</span>
    <p>
      {{ r.text }} <em v-if="r.fix">{{ r.fix }}</em>
    </p>
    <v-btn
      v-if="props.editable && !byHand.includes(r.rule)"
      size="small"
      :disabled="props.busy"
      :aria-label="`Mend ${ruleName(r.rule)}${r.where ? ', ' + r.where : ''}`"
      @click="emit('mend', r.rule, r.at ?? '')"
      >Mend it</v-btn
    >
  </div>
  <div v-for="r in unchecked" :key="r.rule" class="rule small">
    <strong>{{ ruleName(r.rule) }}</strong> <span class="quiet">not checked</span>
    <p>{{ r.text }}</p>
  </div>
  <details class="small">
    <summary>{{ met.length }} rules are kept</summary>
    <div v-for="r in met" :key="r.rule" class="rule">
      <strong>{{ ruleName(r.rule) }}</strong> <span class="quiet">{{ weight[r.severity] }}</span>
      <p>
        {{ r.sentence }} <span class="quiet">Source: {{ r.source }}.</span>
      </p>
    </div>
  </details>
  <p class="small quiet">Choose an exercise to see why it stands there.</p>
</template>

<style scoped>
.rule {
  border-left: 3px solid rgb(var(--v-theme-line));
  padding-left: 8px;
  margin: 8px 0;
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
.rule .quiet,
.rule .link {
  margin-left: 6px;
}
.link {
  text-decoration: underline;
  color: rgb(var(--v-theme-action));
}
</style>
