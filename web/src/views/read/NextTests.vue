<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '@/api/client'

const props = defineProps<{ next: Schemas['NextTest'][] }>()
const more = ref(false)
</script>

<template>
  <section>
    <h2>Test next</h2>
    <ul class="changes small">
      <li v-for="n in props.next.slice(0, more ? undefined : 6)" :key="n.test">{{ n.sentence }}</li>
    </ul>
    <v-btn v-if="props.next.length > 6" size="small" @click="more = !more">{{
      more ? 'Fewer' : `${props.next.length - 6} more`
    }}</v-btn>
    <p class="small quiet">The odds come from our own rough prior (docs/methods.md): where to look first, no more.</p>
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
</style>
