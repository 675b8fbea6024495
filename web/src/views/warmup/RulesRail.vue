<script setup lang="ts">
import { computed } from 'vue'

import ReasonRail from '@/parts/ReasonRail.vue'

import type { WarmUp } from './useWarmUp'

/** What the rules say of a warm-up, each with its fix; what found no room, and what goes when minutes are lost. */
const props = defineProps<{ warmup: WarmUp; busy: boolean }>()
const emit = defineEmits<{ mend: [rule: string]; choose: [id: string]; late: [] }>()
const broken = computed(() => props.warmup.rules.filter((r) => r.status === 'broken'))
const open = computed(() => props.warmup.rules.filter((r) => r.status === 'not-checked'))
const kept = computed(() => props.warmup.rules.filter((r) => r.status === 'met'))
const severities = { blocking: 'must not be', warning: 'warning', advice: 'advice' }
</script>

<template>
  <ReasonRail title="Rules">
    <p v-if="!broken.length" class="good" data-testid="rules-kept">Every rule that could be checked is kept.</p>
    <ul v-else class="rules">
      <li v-for="r in broken" :key="r.rule" :data-testid="`rule-${r.rule}`">
        <button class="plain" :disabled="!r.item" @click="r.item && emit('choose', r.item)">
          <b :class="r.severity === 'blocking' ? 'stop' : 'attention'">{{ r.name }}</b>
          <span class="quiet small"> {{ severities[r.severity] }}</span>
        </button>
        <p class="small">{{ r.text }}</p>
        <p v-if="r.fix" class="small">
          <v-btn size="small" :disabled="props.busy" @click="emit('mend', r.rule)">Mend</v-btn> {{ r.fix }}
        </p>
      </li>
    </ul>
    <p v-for="r in open" :key="r.rule" class="small">{{ r.text }}</p>
    <details class="small quiet">
      <summary>{{ kept.length }} kept</summary>
      {{ kept.map((r) => r.name).join('; ') }}.
    </details>
    <template v-if="props.warmup.ifLate">
      <h3>{{ props.warmup.ifLate.minutes }} minutes late</h3>
      <p class="small" data-testid="if-late">Leave out {{ props.warmup.ifLate.drops.join(', ') }}.</p>
      <v-btn size="small" :disabled="props.busy" @click="emit('late')">Late: what is left now</v-btn>
    </template>
    <template v-if="props.warmup.dropped.length">
      <h3>No room for</h3>
      <ul class="plain-list small">
        <li v-for="d in props.warmup.dropped" :key="d">{{ d }}</li>
      </ul>
    </template>
    <template v-if="props.warmup.notes.length">
      <h3>Good to know</h3>
      <ul class="plain-list small">
        <li v-for="n in props.warmup.notes" :key="n">{{ n }}</li>
      </ul>
    </template>
  </ReasonRail>
</template>

<style scoped>
h3 {
  margin-top: 16px;
}
p {
  margin: 6px 0;
}
.rules,
.plain-list {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.rules li {
  margin-bottom: 12px;
}
.plain-list li {
  margin-bottom: 4px;
}
</style>
