<script setup lang="ts">
import { computed } from 'vue'

import type { Look, Mapping } from './useBringIn'

/** What each column of a file is, and what its axes mean. */
const props = defineProps<{ look: Look }>()
const mapping = defineModel<Mapping>({ required: true })

const quantities = [
  ['', 'not used'],
  ['time', 'time'],
  ['impact', 'impact marker'],
  ['Fx', 'force x'],
  ['Fy', 'force y'],
  ['Fz', 'force z'],
  ['CoPx', 'centre of pressure x'],
  ['CoPy', 'centre of pressure y'],
  ['Tz', 'free moment'],
] as const
type Quantity = (typeof quantities)[number][0]
const places = ['lead', 'trail', 'left', 'right', '1', '2', 'total'] as const
const units: Record<string, string[]> = {
  time: ['s', 'ms'],
  Fx: ['N', 'kN', 'kgf', 'lbf'],
  Fy: ['N', 'kN', 'kgf', 'lbf'],
  Fz: ['N', 'kN', 'kgf', 'lbf'],
  CoPx: ['m', 'cm', 'mm'],
  CoPy: ['m', 'cm', 'mm'],
  Tz: ['N·m', 'N·mm'],
}
const column = (name: string) => mapping.value.columns?.find((c) => c.name === name)
function set(name: string, change: Partial<NonNullable<Mapping['columns']>[number]>) {
  const rest = (mapping.value.columns ?? []).filter((c) => c.name !== name)
  const now = { name, quantity: '' as Quantity, ...column(name), ...change }
  if (now.quantity === '') mapping.value = { ...mapping.value, columns: rest }
  else {
    if (['time', 'impact'].includes(now.quantity)) delete now.place
    else now.place ??= 'total'
    if (change.quantity !== undefined) now.unit = props.look.channels.find((c) => c.name === name)?.unit ?? ''
    const order = props.look.channels.map((c) => c.name)
    mapping.value = {
      ...mapping.value,
      columns: [...rest, now].sort((a, b) => order.indexOf(a.name) - order.indexOf(b.name)),
    }
  }
}
const c3d = computed(() => props.look.kind === 'c3d')
function setPlate(i: number, place: string) {
  const plates = [...(mapping.value.plates ?? [])]
  plates[i] = place
  mapping.value = { ...mapping.value, plates }
}
const frame = (change: Partial<Mapping['frame']>) =>
  (mapping.value = { ...mapping.value, frame: { ...mapping.value.frame, ...change } })
const value = (e: Event) => (e.target as HTMLInputElement | HTMLSelectElement).value
</script>

<template>
  <div class="columns-scroll">
    <table v-if="!c3d" class="small">
      <thead>
        <tr>
          <th>Column</th>
          <th>Is</th>
          <th>Of</th>
          <th>Unit</th>
          <th>Turn sign</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in props.look.channels" :key="c.name">
          <th>{{ c.name }}</th>
          <td>
            <select
              :aria-label="`What ${c.name} is`"
              :value="column(c.name)?.quantity ?? ''"
              @change="set(c.name, { quantity: value($event) as Quantity })"
            >
              <option v-for="[q, words] in quantities" :key="q" :value="q">{{ words }}</option>
            </select>
          </td>
          <td>
            <select
              v-if="column(c.name)?.place"
              :aria-label="`Foot or plate of ${c.name}`"
              :value="column(c.name)?.place"
              @change="set(c.name, { place: value($event) })"
            >
              <option v-for="p in places" :key="p" :value="p">
                {{ p === '1' || p === '2' ? 'plate ' + p : p === 'total' ? 'both, one plate' : p + ' foot' }}
              </option>
            </select>
          </td>
          <td>
            <select
              v-if="units[column(c.name)?.quantity ?? '']"
              :aria-label="`Unit of ${c.name}`"
              :value="column(c.name)?.unit || units[column(c.name)?.quantity ?? '']?.[0]"
              @change="set(c.name, { unit: value($event) })"
            >
              <option v-for="u in units[column(c.name)?.quantity ?? '']" :key="u">{{ u }}</option>
            </select>
          </td>
          <td>
            <input
              v-if="column(c.name)?.place"
              type="checkbox"
              :aria-label="`Turn the sign of ${c.name}`"
              :checked="column(c.name)?.negate"
              @change="set(c.name, { negate: ($event.target as HTMLInputElement).checked })"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <div v-else class="row small">
      <label v-for="(_, i) in props.look.plates" :key="i"
        >Plate {{ i + 1 }} of the file
        <select :value="mapping.plates?.[i] ?? '-'" :aria-label="`Plate ${i + 1}`" @change="setPlate(i, value($event))">
          <option value="-">not used</option>
          <option v-for="p in places" :key="p" :value="p">{{ p === 'total' ? 'both feet' : p }}</option>
        </select>
      </label>
    </div>
  </div>
  <div class="row small">
    <label
      >Axes
      <select
        aria-label="What the axes mean"
        :value="String(mapping.frame.laboratory)"
        @change="frame({ laboratory: value($event) === 'true' })"
      >
        <option value="false">the golfer’s: x toward the target, y toward the ball</option>
        <option value="true">a laboratory’s, mirrored for left-sided golfers</option>
      </select>
    </label>
    <template v-if="mapping.frame.laboratory">
      <label
        v-for="[k, words] in [
          ['target', 'Toward the target'],
          ['up', 'Up'],
        ] as const"
        :key="k"
        >{{ words }}
        <select :value="mapping.frame[k] || (k === 'up' ? '+z' : '+x')" @change="frame({ [k]: value($event) })">
          <option v-for="a in ['+x', '-x', '+y', '-y', '+z', '-z']" :key="a" :value="a">
            {{ a.replace('-', '−') }}
          </option>
        </select>
      </label>
      <label
        ><input
          type="checkbox"
          :checked="mapping.frame.leftOpposite"
          @change="frame({ leftOpposite: ($event.target as HTMLInputElement).checked })"
        />
        left-sided golfers play to the other end</label
      >
    </template>
    <label
      >Forces are
      <select
        aria-label="On whom the forces act"
        :value="String(mapping.frame.onPlate)"
        @change="frame({ onPlate: value($event) === 'true' })"
      >
        <option value="false">of the ground on the golfer</option>
        <option value="true">of the golfer on the plate</option>
      </select>
    </label>
    <label
      >Rate, if the file does not say
      <input
        type="number"
        min="0"
        class="rate"
        :value="mapping.rateHz || ''"
        @change="mapping = { ...mapping, rateHz: Number(value($event)) || undefined }"
      />
      Hz</label
    >
  </div>
</template>

<style scoped>
.columns-scroll {
  max-height: 190px;
  overflow: auto;
}
th {
  text-align: left;
  font-weight: 400;
}
thead th {
  position: sticky;
  top: 0;
  background: rgb(var(--v-theme-surface));
}
td,
th {
  padding: 1px 10px 1px 0;
}
select,
input:not([type='checkbox']) {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-background));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 1px 4px;
}
.rate {
  width: 70px;
}
</style>
