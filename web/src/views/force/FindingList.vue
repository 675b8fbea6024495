<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Findings in the order they are dealt with: far outside first, those that go with another one last. */
const props = defineProps<{ findings: Schemas['ForceFinding'][] }>()
</script>

<template>
  <ol class="findings small" data-testid="force-findings">
    <li v-for="f in props.findings" :key="f.key">
      <strong>{{ f.title }}</strong>
      <span class="quiet"> · for {{ f.purpose }}{{ f.far ? ' · far outside' : '' }}</span>
      <div>{{ f.sentence }}</div>
      <div v-if="f.recheck" class="attention">Recheck after “{{ f.recheck }}”: it usually goes with it.</div>
      <div v-if="f.training">Train: {{ f.training }}</div>
      <div v-if="f.instructor">For the swing instructor{{ f.training ? ' too' : '' }}.</div>
      <div class="quiet">Window: {{ f.source }}</div>
    </li>
  </ol>
</template>

<style scoped>
.findings {
  padding-left: 18px;
}
li {
  margin-bottom: 10px;
}
</style>
