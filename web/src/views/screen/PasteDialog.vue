<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { vFirst } from '@/keys/first'

import type { CellChange } from './cells'

/** What was pasted with labels, laid against the tests by name: looked at before it counts. */
const props = defineProps<{ laid: Schemas['LaidPaste'] | undefined }>()
const emit = defineEmits<{ put: [cells: CellChange[]]; close: [] }>()

type Line = Schemas['LaidLine']
const wanted = ref<boolean[]>([])
watch(
  () => props.laid,
  (laid) => (wanted.value = (laid?.lines ?? []).map(() => true)),
  { immediate: true },
)
const chosen = computed(() => (props.laid?.lines ?? []).filter((_, i) => wanted.value[i]))
const values = computed(() => chosen.value.reduce((n, l) => n + l.cells.length, 0))
const cellsOf = (l: Line): CellChange[] =>
  l.cells.map((c) => ({ test: l.test, side: l.side, trial: c.trial, text: c.text }))
</script>

<template>
  <v-dialog :model-value="props.laid !== undefined" max-width="680" scrollable @update:model-value="emit('close')">
    <form
      v-if="props.laid"
      class="box"
      aria-label="What was pasted"
      @submit.prevent="emit('put', chosen.flatMap(cellsOf))"
    >
      <h2>What was pasted</h2>
      <div class="wide-table">
        <table>
          <thead>
            <tr>
              <th scope="col">Written</th>
              <th scope="col">Goes to</th>
              <th scope="col">Trials</th>
              <th scope="col">Take it</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(l, i) in props.laid.lines" :key="l.test + l.side" :class="{ quiet: !wanted[i] }">
              <td>{{ l.label }}</td>
              <td>
                {{ l.name }} {{ l.side }}
                <span v-if="l.near" class="attention small">near: is it this?</span>
              </td>
              <td class="num">{{ l.cells.map((c) => c.text).join(' · ') }}</td>
              <td>
                <label class="small"
                  ><input v-model="wanted[i]" type="checkbox" :aria-label="`Take ${l.name} ${l.side}`"
                /></label>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <details v-if="props.laid.leftOut.length" class="small" open>
        <summary>Left out: {{ props.laid.leftOut.length }}</summary>
        <ul>
          <li v-for="(l, i) in props.laid.leftOut" :key="i">{{ l.text }}: {{ l.why }}</li>
        </ul>
      </details>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :disabled="values === 0" v-first
          >Put {{ values }} {{ values === 1 ? 'value' : 'values' }} into the sheet</v-btn
        >
        <v-btn @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
ul {
  margin: 4px 0;
  padding-left: 18px;
  max-height: 30vh;
  overflow-y: auto;
}
</style>
