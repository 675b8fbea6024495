<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'

/** A test's targets by sex and age, changed here and kept when the coach says so. */
const props = defineProps<{ test: Schemas['Test'] }>()
const emit = defineEmits<{ keep: [targets: Schemas['Target'][]]; reset: [] }>()

const unit = computed(() => (props.test.unit === 'deg' ? '°' : props.test.unit))
/** Targets as they are typed, before they are kept. */
const targets = ref<Schemas['Target'][]>([])
const dirty = ref(false)
watch(
  () => props.test,
  (t) => {
    targets.value = (t.targets ?? []).map((g) => ({ sex: '', band: '', ...g }))
    dirty.value = false
  },
  { immediate: true },
)
</script>

<template>
  <h3>
    Targets <span class="small quiet">{{ props.test.ownTarget || props.test.own ? 'yours' : 'ours' }}</span>
  </h3>
  <table v-if="targets.length" class="small">
    <thead>
      <tr>
        <th>Sex</th>
        <th>Age</th>
        <th>Target {{ props.test.rule === 'one-rm' ? '× body mass' : unit }}</th>
        <th>Spread</th>
        <th><span class="visually-hidden">Take out</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(g, i) in targets" :key="i">
        <td>
          <select v-model="g.sex" :aria-label="`Sex of target ${i + 1}`" @change="dirty = true">
            <option value="">either</option>
            <option value="male">male</option>
            <option value="female">female</option>
          </select>
        </td>
        <td>
          <select v-model="g.band" :aria-label="`Age of target ${i + 1}`" @change="dirty = true">
            <option value="">any other</option>
            <option v-for="b in ['13-17', '18-39', '40-59', '60+']" :key="b" :value="b">{{ b }}</option>
          </select>
        </td>
        <td>
          <input
            v-model.number="g.value"
            type="number"
            step="any"
            :aria-label="`Target ${i + 1}`"
            @input="dirty = true"
          />
        </td>
        <td>
          <input
            v-model.number="g.spread"
            type="number"
            step="any"
            :aria-label="`Spread ${i + 1}`"
            @input="dirty = true"
          />
        </td>
        <td>
          <v-btn
            size="small"
            @click="
              () => {
                targets.splice(i, 1)
                dirty = true
              }
            "
            >Remove</v-btn
          >
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else class="small quiet">
    {{
      props.test.id === 'grip'
        ? 'The target comes from the published table by age, sex and hand.'
        : 'No target: the result is shown beside the squad and the golfer’s own past, and not scored.'
    }}
  </p>
  <div v-if="props.test.rule !== 'derived'" class="row">
    <v-btn
      size="small"
      @click="
        () => {
          targets.push({ sex: '', band: '', value: 0, spread: 1 })
          dirty = true
        }
      "
      >Add a target</v-btn
    >
    <v-btn v-if="dirty" size="small" color="action" variant="flat" @click="emit('keep', targets)"
      >Keep these targets</v-btn
    >
    <v-btn v-if="props.test.ownTarget" size="small" @click="emit('reset')">Back to ours</v-btn>
  </div>
</template>

<style scoped>
td,
th {
  text-align: left;
  padding: 2px 12px 2px 0;
}
td input,
td select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 3px 5px;
  width: 104px;
}
</style>
