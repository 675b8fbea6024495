<script setup lang="ts">
import { mdiClose, mdiPlus } from '@mdi/js'

import type { Schemas } from '@/api/client'
import { spaced } from '@/parts/words'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{
  regions: string[]
  kinds: Schemas['LimitKind'][]
  wrong: Record<string, string>
}>()
</script>

<template>
  <section>
    <div class="row spread">
      <h2>Limits</h2>
      <v-btn
        size="small"
        :prepend-icon="mdiPlus"
        @click="form.limits.push({ region: 'lumbar-spine', side: '', kind: 'no-impact', until: '', setBy: 'doctor' })"
        >Add a limit</v-btn
      >
    </div>
    <p v-if="form.limits.length === 0" class="small quiet">
      No limits. Pain of 4 or more in a screen makes one by itself.
    </p>
    <div v-for="(l, i) in form.limits" :key="i" class="limit">
      <v-select
        v-model="l.region"
        label="Region"
        :items="props.regions.map((r) => ({ title: r === 'heart' ? 'heart or blood pressure' : spaced(r), value: r }))"
      />
      <v-select v-model="l.side" label="Side" :items="[{ title: 'not said', value: '' }, 'lead', 'trail', 'both']" />
      <v-select v-model="l.kind" label="Kind" :items="props.kinds.map((k) => ({ title: spaced(k), value: k }))" />
      <v-text-field
        v-if="l.kind === 'load-cap'"
        v-model.number="l.capKg"
        label="kg"
        type="number"
        min="1"
        :error-messages="props.wrong[`limits[${i}].capKg`]"
      />
      <v-text-field v-model="l.until" label="Until (empty: until lifted)" type="date" />
      <v-select v-model="l.setBy" label="Set by" :items="['doctor', 'physiotherapist', 'coach']" />
      <v-btn :icon="mdiClose" size="small" :aria-label="`Remove limit ${i + 1}`" @click="form.limits.splice(i, 1)" />
    </div>
  </section>
</template>

<style scoped>
.limit {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px;
  align-items: center;
  margin-top: 10px;
}
</style>
