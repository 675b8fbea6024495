<script setup lang="ts">
import { toShown } from '@/parts/speed'
import { dayAndYear } from '@/parts/days'

import type { Page } from './useSpeed'

/** What the newest cold start says: two averages always, a curve only where there is one, and what it changes. */
const props = defineProps<{ cold: NonNullable<Page['coldStart']>; unit: 'mph' | 'm/s'; golfer: string }>()
const yards = (m: number) => (props.unit === 'mph' ? m / 0.9144 : m).toFixed(0)
</script>

<template>
  <div class="cold" data-testid="cold-start">
    <p>{{ props.cold.sentence }}</p>
    <dl>
      <div>
        <dt>first {{ Math.max(1, Math.min(3, Math.floor(props.cold.mps.length / 2))) }}</dt>
        <dd class="num">{{ toShown(props.cold.result.earlyMps, props.unit).toFixed(1) }}</dd>
      </div>
      <div>
        <dt>last</dt>
        <dd class="num">{{ toShown(props.cold.result.lateMps, props.unit).toFixed(1) }}</dd>
      </div>
      <div>
        <dt>ladder</dt>
        <dd class="num">{{ props.cold.ladderSwings }} swings</dd>
      </div>
    </dl>
    <p v-if="props.cold.again" class="small">{{ props.cold.again }}</p>
    <p v-if="props.cold.strike" class="small">{{ props.cold.strike }}</p>
    <details v-if="props.cold.lost" class="small">
      <summary>Carry lost, three ways</summary>
      <table>
        <tbody>
          <tr>
            <td>rule of thumb</td>
            <td class="num">
              {{ yards(props.cold.lost.byRule.lowM) }} to {{ yards(props.cold.lost.byRule.highM) }}
              {{ props.unit === 'mph' ? 'yd' : 'm' }}
            </td>
          </tr>
          <tr>
            <td>own shots</td>
            <td class="num">
              <template v-if="props.cold.lost.ownM"
                >{{ yards(props.cold.lost.ownM) }} {{ props.unit === 'mph' ? 'yd' : 'm' }}</template
              ><span v-else class="quiet">{{ props.cold.lost.noOwn }}</span>
            </td>
          </tr>
          <tr>
            <td>flight</td>
            <td class="num">{{ yards(props.cold.lost.byFlightM) }} {{ props.unit === 'mph' ? 'yd' : 'm' }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">The flight assumes {{ props.cold.lost.assumes }}.</p>
    </details>
    <p class="small" :class="{ attention: props.cold.due }">
      {{ props.cold.due ? 'Due again.' : `Due again ${dayAndYear(props.cold.dueOn)}.` }}
      <router-link :to="{ name: 'warmup', params: { id: props.golfer } }">Warm-up with its ladder</router-link>
    </p>
  </div>
</template>

<style scoped>
.cold p {
  margin: 6px 0;
}
dl {
  display: flex;
  gap: 18px;
  margin: 8px 0;
}
dt {
  font-size: var(--small);
}
dd {
  margin: 0;
  font-size: 1.15rem;
  font-weight: 650;
}
td {
  padding: 2px 12px 2px 0;
  vertical-align: top;
}
</style>
