<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'
import { SIDES, type Test } from '@/views/screen/cells'

/** What each column of a file means, beside its first values. */
const mapping = defineModel<Schemas['Mapping']>({ required: true })
const props = defineProps<{ upload: Schemas['Upload']; tests: Test[]; wrong: Record<string, string> }>()

const fields = [
  ['', 'not brought in'],
  ['measure', 'values of a test'],
  ['summary', 'worked out from others: left out'],
  ['golfer', 'golfer’s name'],
  ['firstName', 'first name'],
  ['lastName', 'last name'],
  ['birthDate', 'birth date'],
  ['sex', 'sex'],
  ['playingSide', 'playing side'],
  ['date', 'date of the screen'],
  ['test', 'which test'],
  ['side', 'side'],
  ['trial', 'trial number'],
  ['value', 'value'],
  ['unit', 'unit'],
  ['status', 'done, stopped or skipped'],
  ['variant', 'way of doing it'],
  ['pain', 'pain 0 to 10'],
  ['region', 'body region'],
  ['note', 'note'],
  ['tester', 'tester'],
  ['device', 'device'],
  ['dayMass', 'body mass of the day'],
  ['daySleep', 'hours slept'],
  ['dayHeartRate', 'resting heart rate'],
] as const
const tests = computed(() => props.tests.filter((t) => t.rule !== 'derived'))
const byId = computed(() => new Map(tests.value.map((t) => [t.id, t])))
const units: Record<string, string[]> = {
  kg: ['kg', 'lb'],
  cm: ['cm', 'in', 'm', 'mm', 's', 'ms'],
  m: ['m', 'yd', 'cm', 'in'],
  'm/s': ['m/s', 'mph', 'km/h'],
  s: ['s', 'ms'],
  ms: ['ms', 's'],
  mm: ['mm', 'cm', 'in'],
}
function set(i: number, change: Partial<Schemas['Mapping']['columns'][number]>) {
  const columns = mapping.value.columns.map((c, k) => (k === i ? { ...c, ...change, near: false } : c))
  const c = columns[i]
  // What the header says of the unit stays with the column, whatever it is said to mean.
  if (c && change.field !== undefined && c.field !== 'measure') columns[i] = { field: c.field, unit: c.unit }
  if (c && change.test !== undefined) {
    const t = byId.value.get(change.test)
    columns[i] = { ...c, side: t ? SIDES[t.sides][0] : '', trial: 1, unit: t ? unitFor(t, c.unit) : c.unit }
  }
  mapping.value = { ...mapping.value, columns }
}
/** The sides a column may hold: one, left or right by each golfer, or two values in a cell. */
function sides(t: Test | undefined): string[] {
  if (t?.sides === 'none') return []
  return [...(t ? SIDES[t.sides] : []), 'left', 'right', 'left/right', 'right/left']
}
const rowsNameTests = computed(() => mapping.value.columns.some((c) => c.field === 'test'))
/** The unit of the header where the test can be measured in it; its own otherwise. */
function unitFor(t: Test, headed: string | undefined): string {
  return headed && (units[t.unit] ?? []).includes(headed) ? headed : t.unit
}
const text = (e: Event) => (e.target as HTMLSelectElement).value
</script>

<template>
  <div class="scroll">
    <table class="small">
      <thead>
        <tr>
          <th>Column</th>
          <th>First values</th>
          <th>Means</th>
          <th>Test, side, trial, unit</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(h, i) in props.upload.header ?? []" :key="i">
          <th scope="row">{{ h || `column ${i + 1}` }}</th>
          <td class="quiet">
            {{
              (props.upload.sample ?? [])
                .slice(0, 3)
                .map((r) => r[i] ?? '')
                .filter(Boolean)
                .join(' · ')
            }}
          </td>
          <td>
            <select
              :value="mapping.columns[i]?.field ?? ''"
              :aria-label="`What ${h} means`"
              @change="set(i, { field: text($event) })"
            >
              <option v-for="[id, words] in fields" :key="id" :value="id">{{ words }}</option>
            </select>
            <p v-if="props.wrong[h]" class="stop" role="alert">{{ props.wrong[h] }}</p>
          </td>
          <td>
            <template v-if="mapping.columns[i]?.field === 'measure'">
              <select
                :value="mapping.columns[i]?.test ?? ''"
                :aria-label="`Test of ${h}`"
                @change="set(i, { test: text($event) })"
              >
                <option value="">{{ rowsNameTests ? 'the test of the row' : 'choose …' }}</option>
                <option v-for="t in tests" :key="t.id" :value="t.id">{{ t.name }}</option>
              </select>
              <template v-for="t in [byId.get(mapping.columns[i]?.test ?? '')]" :key="t?.id ?? ''">
                <select
                  v-if="sides(t).length && (t || rowsNameTests)"
                  :value="mapping.columns[i]?.side ?? ''"
                  :aria-label="`Side of ${h}`"
                  @change="set(i, { side: text($event) })"
                >
                  <option value="">{{ t ? 'which side?' : 'no side' }}</option>
                  <option v-for="s in sides(t)" :key="s" :value="s">
                    {{ s.includes('/') ? `two values: ${s}` : s }}
                  </option>
                </select>
                <select
                  v-if="t || rowsNameTests"
                  :value="mapping.columns[i]?.trial || (t ? 1 : 0)"
                  :aria-label="`Trial of ${h}`"
                  @change="set(i, { trial: Number(text($event)) })"
                >
                  <option v-if="!t" :value="0">next trial</option>
                  <option v-for="n in t?.trials ?? 3" :key="n" :value="n">trial {{ n }}</option>
                </select>
                <select
                  v-if="t"
                  :value="mapping.columns[i]?.unit || t.unit"
                  :aria-label="`Unit of ${h}`"
                  @change="set(i, { unit: text($event) })"
                >
                  <option v-for="u in units[t.unit] ?? [t.unit]" :key="u" :value="u">{{ u }}</option>
                </select>
              </template>
              <span v-if="props.upload.mapping?.columns[i]?.date" class="quiet"
                >on {{ longDay(props.upload.mapping.columns[i]?.date ?? '') }}</span
              >
              <p v-if="mapping.columns[i]?.near" class="attention">Near what we call it: is it this?</p>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  max-height: 46vh;
  overflow: auto;
  border-block: 1px solid rgb(var(--v-theme-line));
}
table {
  border-collapse: collapse;
  width: 100%;
}
thead th {
  position: sticky;
  top: 0;
  background: rgb(var(--v-theme-background));
}
th,
td {
  text-align: left;
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
td p {
  margin: 2px 0;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 2px 4px;
  margin-right: 6px;
  max-width: 210px;
}
@media (max-width: 700px) {
  .scroll {
    max-height: none;
  }
  thead {
    display: none;
  }
  tr {
    display: block;
    padding: 6px 0;
    border-bottom: 1px solid rgb(var(--v-theme-line));
  }
  th,
  td {
    display: block;
  }
  select {
    min-height: 44px;
    margin-bottom: 6px;
  }
}
</style>
