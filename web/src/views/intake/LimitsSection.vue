<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { choices, clearers } from '@/parts/choices'
import FactRows from '@/parts/FactRows.vue'
import { spaced } from '@/parts/words'

const form = defineModel<Schemas['AthleteChange']>({ required: true })
const props = defineProps<{
  regions: string[]
  kinds: Schemas['LimitKind'][]
  wrong: Record<string, string>
}>()
type Limit = Schemas['AthleteChange']['limits'][number]
const fresh = (): Limit => ({ region: 'lumbar-spine', side: '', kind: 'no-impact', until: '', setBy: 'doctor' })
</script>

<template>
  <FactRows
    v-model="form.limits"
    title="Limits"
    add="Add a limit"
    :fresh="fresh"
    :named="(_, i) => `limit ${i + 1}`"
    none="No limits. Pain of 4 or more in a screen makes one by itself."
  >
    <template #default="{ row: l, i }">
      <v-select
        v-model="l.region"
        label="Region"
        :items="props.regions.map((r) => ({ title: r === 'heart' ? 'heart or blood pressure' : spaced(r), value: r }))"
      />
      <v-select
        v-model="l.side"
        label="Side"
        :items="choices(['', 'not said'], ['lead', 'lead'], ['trail', 'trail'], ['both', 'both'])"
      />
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
      <v-select v-model="l.setBy" label="Set by" :items="[...clearers, ...choices(['coach', 'coach'])]" />
    </template>
  </FactRows>
</template>
