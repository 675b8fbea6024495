<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { lastResult, SIDES, type Test } from '@/views/screen/cells'

import { clockAt, locked } from './stationCells'

/** Beside a station's table: whose turn it is with what they did last, and who follows. */
const props = defineProps<{
  rows: Schemas['StationRow'][]
  test: Test
  /** The row that is typed into. */
  row: number
  /** The day, YYYY-MM-DD. */
  day: string
  /** When it begins, HH:MM. */
  start: string
  shown: (value: number) => string
}>()

const now = computed(() => props.rows[props.row])
const last = computed(() => {
  const read = now.value?.tests.find((t) => t.test === props.test.id)
  return SIDES[props.test.sides].flatMap((side) => {
    const l = lastResult(read, side, props.day)
    return l ? [`${side} ${props.shown(l.value)}`.trim()] : []
  })
})
const following = computed(() =>
  props.rows
    .slice(props.row + 1)
    .filter((r) => !locked(r, props.test))
    .slice(0, 3),
)
</script>

<template>
  <aside class="turn" aria-label="Whose turn it is">
    <template v-if="now">
      <h2>{{ now.golfer.name }}</h2>
      <p v-if="last.length" data-testid="station-last">
        Last time <strong class="num">{{ last.join(', ') }}</strong>
      </p>
      <p v-else class="quiet">Not done before in this way.</p>
      <h2 class="next">Next</h2>
      <ol v-if="following.length">
        <li v-for="r in following" :key="r.golfer.id">
          {{ r.golfer.name }}
          <span v-if="r.start >= 0" class="quiet num">{{ clockAt(props.start, r.start) }}</span>
        </li>
      </ol>
      <p v-else class="quiet">Nobody after this one.</p>
    </template>
  </aside>
</template>

<style scoped>
.turn {
  border-left: 1px solid rgb(var(--v-theme-line));
  padding: 0 0 0 20px;
}
h2 {
  font-size: 1.5rem;
}
h2.next {
  font-size: inherit;
}
p {
  margin: 4px 0 12px;
}
ol {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
li {
  padding: 4px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
@media (max-width: 900px) {
  .turn {
    border-left: 0;
    padding: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 0 12px;
    align-items: baseline;
  }
  h2:not(.next),
  li + li {
    display: none;
  }
  h2.next {
    font-weight: inherit;
  }
  p,
  ol {
    margin: 4px 0;
  }
  p {
    flex: 1 0 100%;
  }
  li {
    border: 0;
    padding: 0;
  }
}
</style>
