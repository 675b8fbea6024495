<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** How a test is done, what counts, and where its numbers come from. */
const props = defineProps<{ test: Schemas['Test'] }>()

const unit = computed(() => (props.test.unit === 'deg' ? '°' : props.test.unit))
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
</script>

<template>
  <dl>
    <dt>Set-up</dt>
    <dd>{{ props.test.setup }}</dd>
    <template v-if="props.test.say">
      <dt>Say</dt>
      <dd class="say">“{{ props.test.say }}”</dd>
    </template>
    <dt>Trials</dt>
    <dd>
      {{ props.test.trials || 'none to type' }}, {{ sideWords[props.test.sides] }}; result:
      {{ ruleWords[props.test.rule] }}<template v-if="props.test.restS">; {{ props.test.restS }} s rest</template>
      <template v-if="props.test.minutes">; about {{ props.test.minutes }} min a golfer</template>
    </dd>
    <template v-if="props.test.voids?.length">
      <dt>Does not count</dt>
      <dd>{{ props.test.voids.join('; ') }}</dd>
    </template>
    <template v-if="props.test.variants?.length">
      <dt>Ways of doing it</dt>
      <dd>
        {{ props.test.variants.map((v) => v.name + (v.for ? '' : ' (no target)')).join(', ') }}; only the same way is
        compared
      </dd>
    </template>
    <dt>Limits</dt>
    <dd class="num">
      asked about outside {{ props.test.plausible[0] }} to {{ props.test.plausible[1] }} {{ unit }}; refused outside
      {{ props.test.impossible[0] }} to {{ props.test.impossible[1] }}
    </dd>
    <dt>Test error</dt>
    <dd>
      {{
        props.test.errorIsShare
          ? `${(props.test.typicalError * 100).toFixed(1)}%`
          : `${props.test.typicalError} ${unit}`
      }}:
      {{ props.test.errorFrom || 'our default' }}
    </dd>
    <dt>Source</dt>
    <dd>{{ props.test.source }}</dd>
  </dl>
</template>

<style scoped>
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
</style>
