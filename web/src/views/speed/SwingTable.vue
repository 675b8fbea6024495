<script setup lang="ts">
import { computed } from 'vue'

import { toShown } from '@/parts/speed'

import type { Page, Series, Swing } from './useSpeed'

/** Every swing of a series in its order: what it was made with, what was seen, and whether it counts. */
const props = defineProps<{
  swings: Swing[]
  series: Series | undefined
  page: Page
  unit: 'mph' | 'm/s'
  chosen: string
}>()
const emit = defineEmits<{ change: [swing: Swing, what: Partial<Swing>]; choose: [id: string] }>()

const marks = computed(() => new Map(props.series?.swings.map((s, i) => [s.id, props.series?.marks[i] ?? '']) ?? []))
const name = (id: string) => [props.page.own, ...props.page.implements].find((i) => i.id === id)?.name ?? id
const seen = computed(() => ({
  ball: props.swings.some((s) => s.ballMps),
  carry: props.swings.some((s) => s.carryM),
  strike: props.swings.some((s) => s.strike),
}))
const carry = (m: number) => (props.unit === 'mph' ? `${(m / 0.9144).toFixed(0)} yd` : `${m.toFixed(0)} m`)
const intents = { easy: 'easy', cruise: 'course', full: 'full' }
const words: Record<string, string> = {
  void: 'void',
  double: 'seen twice',
  practice: 'practice swing?',
  odd: 'odd?',
}
function what(s: Swing) {
  const m = s.void ? 'void' : (marks.value.get(s.id) ?? '')
  return m === 'void' ? s.void || 'void' : (words[m] ?? '')
}
</script>

<template>
  <div class="wide">
    <table class="swings">
      <thead>
        <tr>
          <th>#</th>
          <th>Club</th>
          <th v-if="seen.ball">Ball</th>
          <th v-if="seen.carry">Carry</th>
          <th v-if="seen.strike">Strike, start</th>
          <th>With</th>
          <th>Set</th>
          <th><span class="visually-hidden">Change</span></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(s, i) in [...props.swings].reverse()"
          :key="s.id"
          :class="{ out: what(s) !== '', chosen: s.id === props.chosen }"
          @click="emit('choose', s.id)"
        >
          <td class="num quiet">{{ props.swings.length - i }}</td>
          <td class="num speed">{{ toShown(s.clubMps, props.unit).toFixed(1) }}</td>
          <td v-if="seen.ball" class="num">
            <template v-if="s.ballMps">
              {{ toShown(s.ballMps, props.unit).toFixed(1) }}
              <span class="quiet" :class="{ attention: s.ballMps / s.clubMps > props.page.smashLimit }">{{
                (s.ballMps / s.clubMps).toFixed(2)
              }}</span>
            </template>
          </td>
          <td v-if="seen.carry" class="num">{{ s.carryM ? carry(s.carryM) : '' }}</td>
          <td v-if="seen.strike" class="num">
            <template v-if="s.strike">
              {{ Math.abs(s.strike.toeMm) }} mm {{ s.strike.toeMm < 0 ? 'heel' : 'toe' }},
              {{ Math.abs(s.strike.directionDeg).toFixed(1) }}° {{ s.strike.directionDeg < 0 ? 'across' : 'away' }}
            </template>
          </td>
          <td>
            {{ name(s.implement) }}<template v-if="s.side === 'other'">, other side</template
            ><template v-if="s.intent !== 'full'">, {{ intents[s.intent] }}</template
            ><template v-if="s.drill">, {{ s.drill }}</template>
          </td>
          <td class="num">{{ s.set }}</td>
          <td class="act">
            <span v-if="what(s)" class="attention">{{ what(s) }}</span>
            <button v-if="s.void" class="plain link" @click.stop="emit('change', s, { void: '' })">It counts</button>
            <template v-else-if="what(s)">
              <button class="plain link" @click.stop="emit('change', s, { kept: true })">It counts</button>
              <button class="plain link" @click.stop="emit('change', s, { void: 'slip' })">Void</button>
            </template>
            <button
              v-else
              class="plain link quiet"
              :aria-label="`Void swing ${props.swings.length - i}`"
              @click.stop="emit('change', s, { void: 'slip' })"
            >
              Void
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
.swings {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 650;
  font-size: var(--small);
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
td {
  padding: 5px 10px 5px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.speed {
  font-weight: 650;
}
.out .speed {
  text-decoration: line-through;
  font-weight: 400;
}
.chosen td {
  background: rgba(var(--v-theme-primary), 0.1);
}
.act {
  text-align: right;
  white-space: nowrap;
}
.link {
  text-decoration: underline;
  margin-left: 12px;
  min-height: 28px;
}
@media (pointer: coarse) {
  .link {
    min-height: 44px;
    min-width: 44px;
  }
}
</style>
