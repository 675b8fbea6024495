<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import TermNote from '@/help/TermNote.vue'

const props = defineProps<{ tests: Schemas['TestRead'][] }>()

const changes = computed(() =>
  props.tests.flatMap((t) =>
    t.sides.flatMap((s) => (s.change ? [{ key: t.test + s.side, name: t.name, change: s.change }] : [])),
  ),
)
const marks = { real: '→', unclear: '⇢', 'within error': '•' } as const
</script>

<template>
  <section v-if="changes.length">
    <h2>Since the last screen</h2>
    <p class="small quiet">→ real, ⇢ unclear, • within error: <TermNote term="verdict">how sure that is</TermNote></p>
    <ul class="changes small">
      <li v-for="c in changes" :key="c.key">
        <span class="arrow" aria-hidden="true">{{ marks[c.change.verdict] }}</span>
        <strong>{{ c.name }}</strong>: {{ c.change.sentence }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.changes {
  padding: 0;
  list-style: none;
}
.changes li {
  padding: 2px 0;
}
.arrow {
  display: inline-block;
  width: 16px;
  font-weight: 700;
}
</style>
