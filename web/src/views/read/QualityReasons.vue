<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import TermNote from '@/help/TermNote.vue'
import { groupBy } from '@/parts/groupBy'
import { numberShown, unitAfter, type Units } from '@/parts/units'
import { capital } from '@/parts/words'
import HistoryLine from '@/plots/HistoryLine.vue'
import WorthBand from '@/plots/WorthBand.vue'

/** What a quality rests on: its tests, what they are compared with, and their history. */
const props = defineProps<{
  quality: Schemas['Standing']
  tests: Schemas['TestRead'][]
  ranges: Schemas['RangeFinding'][]
  units: Units
}>()
const sources = computed(() =>
  [...groupBy(props.tests, (t) => t.source)].map(([source, tests]) => [source, tests.map((t) => t.name)] as const),
)
const inSquad = (t: Schemas['TestRead']) =>
  t.sides.flatMap((s) => (s.squad === undefined ? [] : [`${s.side} ${s.squad}`.trim()])).join(', ')
</script>

<template>
  <section v-if="props.quality.worth" class="small">
    <h3>What it could be worth</h3>
    <p>{{ props.quality.worth.sentence }}</p>
    <WorthBand v-if="props.quality.worth.high > 0" :worth="props.quality.worth" :unit="props.units.speed" />
    <details class="quiet">
      <summary>{{ props.quality.worth.from === 'squad' ? 'From this squad' : 'From a published study' }}</summary>
      <p>{{ props.quality.worth.basis }} ({{ props.quality.worth.source }})</p>
    </details>
  </section>
  <details v-if="props.quality.why" class="small">
    <summary>The arithmetic</summary>
    <p>{{ props.quality.why }} <TermNote term="need">What need is</TermNote></p>
    <p class="quiet">
      {{ Math.round(props.quality.coverage * 100) }}% of the quality is measured; it may lead from 60%.
    </p>
  </details>
  <div v-for="t in props.tests" :key="t.test" class="small">
    <h3>{{ t.name }}</h3>
    <p>{{ t.sentence }}</p>
    <p v-if="t.difference">{{ t.difference.sentence }}</p>
    <p v-if="t.sides.some((s) => s.squad !== undefined)">Percentile in this squad: {{ inSquad(t) }}.</p>
    <template v-for="s in t.sides" :key="s.side">
      <p v-if="s.percentile !== undefined">{{ capital(s.side) }}: percentile {{ s.percentile }}; {{ s.reference }}.</p>
      <p v-for="r in s.references ?? []" :key="r.source" :class="{ quiet: !r.fits }">
        {{ s.side ? capital(s.side) + ': ' : ''
        }}<template v-if="r.percentile !== undefined">percentile {{ r.percentile }}; </template>{{ r.text }}
        <span class="quiet">({{ r.source }}; {{ r.mark }})</span>
      </p>
      <HistoryLine
        v-if="s.history && s.history.length > 1"
        :points="s.history"
        :error="s.typicalError"
        :open="['trail', 'away', 'other'].includes(s.side)"
        :label="`${t.name} ${s.side}`"
      />
    </template>
    <p v-if="t.detectable !== undefined" class="quiet">
      Real from {{ numberShown(t.detectable, t.unit, t.decimals + 1, props.units)
      }}{{ unitAfter(t.unit, props.units) }}; error: {{ t.errorFrom }}.
    </p>
  </div>
  <p v-for="[source, names] in sources" :key="source" class="small quiet">
    Target and error of {{ names.join(', ') }}: {{ source }}.
  </p>
  <template v-if="props.ranges.length">
    <h3>Joints the plan works on</h3>
    <p v-for="r in props.ranges" :key="r.test + r.side" class="small">{{ r.for }}</p>
  </template>
</template>
