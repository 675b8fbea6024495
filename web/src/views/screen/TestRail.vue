<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession } from '@/api/queries'
import { timeOfDay } from '@/parts/clock'
import { earlierFirst } from '@/parts/days'
import { capital } from '@/parts/words'
import HistoryLine from '@/plots/HistoryLine.vue'

/** What the selected test is, how it is done, what its results are held against, and how sure they are. */
const props = defineProps<{
  test: Schemas['Test']
  read: Schemas['TestRead'] | undefined
  trials: Schemas['Trial'][]
}>()

const measured = computed(() => props.read && props.read.status !== 'not-measured')
const voids = computed(() => (props.test.voids ?? []).join('; '))
const last = computed(() => [...props.trials].sort((a, b) => earlierFirst(a.at ?? '', b.at ?? '')).at(-1))
const { data: session } = useSession()
const time = (at: string | undefined) => timeOfDay(at, session.value?.zone)
</script>

<template>
  <h3>{{ props.test.name }}</h3>
  <p class="small">{{ props.test.setup }}</p>
  <p v-if="props.test.say" class="small say">“{{ props.test.say }}”</p>
  <p class="small quiet">
    {{ props.test.trials }} {{ props.test.trials === 1 ? 'trial' : 'trials' }}, result: {{ props.test.rule
    }}<template v-if="props.test.restS">, {{ props.test.restS }} s rest</template>.
    <template v-if="voids">Does not count: {{ voids }}.</template>
  </p>
  <template v-if="measured && props.read">
    <p class="small">{{ props.read.sentence }}</p>
    <p v-if="props.read.difference" class="small" data-testid="difference">{{ props.read.difference.sentence }}</p>
    <template v-for="s in props.read.sides" :key="s.side">
      <p v-if="s.change" class="small">{{ s.change.sentence }}</p>
      <HistoryLine
        v-if="s.history && s.history.length > 1"
        :points="s.history"
        :error="s.typicalError"
        :open="['trail', 'away', 'other'].includes(s.side)"
        :label="`${props.test.name} ${s.side}`"
      />
      <p v-if="s.percentile !== undefined" class="small">
        {{ capital(s.side) }}: percentile {{ s.percentile }} of {{ s.reference }}.
      </p>
      <p v-for="r in s.references ?? []" :key="r.source + s.side" class="small" :class="{ quiet: !r.fits }">
        {{ s.side ? capital(s.side) + ': ' : ''
        }}<template v-if="r.percentile !== undefined">percentile {{ r.percentile }}; </template>{{ r.text }}
        <span class="quiet">({{ r.source }}; {{ r.mark }})</span>
      </p>
      <p v-if="s.outlier" class="small attention">
        Trial {{ s.outlier }} lies far from the others. It counts; look at it.
      </p>
    </template>
    <p v-if="props.read.detectable !== undefined" class="small quiet">
      A change is called real from {{ props.read.detectable }} {{ props.test.unit === 'deg' ? '°' : props.test.unit }}.
      Test error: {{ props.read.errorFrom }}.
    </p>
    <p v-if="last" class="small quiet">
      Written down {{ time(last.at) }}{{ last.tester ? ` by ${last.tester}` : ''
      }}{{ last.device ? ` with ${last.device}` : '' }}.
    </p>
  </template>
  <p v-else class="small quiet">{{ props.read?.sentence }}</p>
  <p class="small quiet">Where target and test error come from: {{ props.test.source }}.</p>
</template>

<style scoped>
.say {
  font-style: italic;
}
</style>
