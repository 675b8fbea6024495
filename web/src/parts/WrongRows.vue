<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** The rows of a file that need a look, with what is wrong; those that are only unlikely are marked. */
const props = defineProps<{ rows: Schemas['ImportError'][] }>()

/** A table longer than this is not read. */
const MOST = 200
</script>

<template>
  <div class="rows">
    <table class="small">
      <thead>
        <tr>
          <th>Row</th>
          <th>Column</th>
          <th>What is wrong</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(e, i) in props.rows.slice(0, MOST)" :key="i" :class="{ attention: e.unlikely }">
          <td class="num">{{ e.row || '–' }}</td>
          <td>{{ e.column }}</td>
          <td>{{ e.detail }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="props.rows.length > MOST" class="small quiet">And {{ props.rows.length - MOST }} more.</p>
  </div>
</template>

<style scoped>
.rows {
  max-height: 320px;
  overflow: auto;
}
td,
th {
  text-align: left;
  padding: 2px 16px 2px 0;
  vertical-align: top;
}
</style>
