<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** In what one plan differs from another, in the order of time. */
const props = defineProps<{ list: Schemas['PlanDifference'][] | undefined; error?: string | undefined }>()
</script>

<template>
  <p v-if="props.error" class="stop" role="alert">{{ props.error }}</p>
  <p v-else-if="!props.list" class="quiet">Comparing …</p>
  <p v-else-if="props.list.length === 0">Nothing differs.</p>
  <ul v-else class="differences" data-testid="differences">
    <li v-for="(d, i) in props.list" :key="i">
      <span class="small quiet">{{ d.where }}</span><span>{{ d.words }}</span>
    </li>
  </ul>
</template>

<style scoped>
.differences {
  list-style: none;
  padding: 0;
  margin: 8px 0;
  max-height: 50vh;
  overflow-y: auto;
}
.differences li {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
@media (max-width: 600px) {
  .differences li {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
