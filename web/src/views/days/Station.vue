<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useMediaQuery } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { useChanges, useForget, useMeta } from '@/api/queries'
import { numberShown, useUnits } from '@/parts/units'
import { type Test, unitShown } from '@/views/screen/cells'
import { hasParts } from '@/views/screen/fields'
import SheetTroubles from '@/views/screen/SheetTroubles.vue'
import TrialActions from '@/views/screen/TrialActions.vue'
import TrialDialogs from '@/views/screen/TrialDialogs.vue'
import { useTrialDialogs } from '@/views/screen/useTrialDialogs'

import { columnsOf, locked, type Spot, trialWords } from './stationCells'
import StationNext from './StationNext.vue'
import StationTable from './StationTable.vue'
import { useStationTyping } from './useStationTyping'
import { useTurns } from '@/parts/turns'

/** One station of a screen day: one test at a time, golfers down in running order. */
const props = defineProps<{ dayId: string; station: number }>()
const router = useRouter()
const phone = useMediaQuery('(max-width: 700px)')
const client = useQueryClient()
const forget = useForget()
const { data: meta } = useMeta()
const queryKey = computed(() => keys.station(props.dayId, props.station))
const { data: sheet, error } = useQuery({
  queryKey,
  shallow: true,
  queryFn: () =>
    must(
      api.GET('/days/{dayId}/stations/{station}', {
        params: { path: { dayId: props.dayId, station: props.station } },
      }),
    ),
})
const reload = () => client.invalidateQueries({ queryKey: queryKey.value })
useChanges(reload)

const station = computed(() => sheet.value?.day.stations[props.station])
const tests = computed(() =>
  (station.value?.tests ?? []).flatMap((id) => meta.value?.tests.find((t) => t.id === id) ?? []),
)
const chosen = ref('')
const test = computed<Test | undefined>(() => tests.value.find((t) => t.id === chosen.value) ?? tests.value[0])
const rows = computed(() => sheet.value?.rows ?? [])
const units = useUnits()
const { typings, order, undone, put, takeBack, bringBack } = useStationTyping({
  dayId: props.dayId,
  rows,
  tests: () => meta.value?.tests ?? [],
  units: () => units.value,
  ready: () => sheet.value !== undefined,
  async saved(athleteId) {
    await reload()
    void forget(athleteId)
  },
})

const table = ref<InstanceType<typeof StationTable>>()
const here = ref<Spot>({ row: 0, column: 0 })
const across = ref(false)
const dialogs = useTrialDialogs<Spot>({
  textAt: (at) => table.value?.textAt(at) ?? '',
  write: (at, change) => table.value?.write(at, change),
  give: (at, text) => table.value?.commit(at, text),
  next: (at) => table.value?.next(at),
  focus: (at) => table.value?.focus(at),
})
const trialChosen = computed(() => {
  const r = rows.value[here.value.row]
  const c = test.value && columnsOf(test.value)[here.value.column]
  return r && c ? `${r.golfer.name} ${trialWords(c)}` : ''
})
const shown = (v: number) => (test.value ? numberShown(v, test.value.unit, test.value.decimals, units.value) : '')
const juniors = computed(() => rows.value.some((r) => r.golfer.junior))
/** Drawn so far: the station and its tests, the golfers, what is done with a trial. */
const drawn = useTurns(() => (sheet.value && test.value ? 3 : 0))
watch(
  [() => test.value?.id, () => rows.value.length, table],
  () => void nextTick(() => table.value?.focus({ row: 0, column: 0 })),
)
</script>

<template>
  <div class="sheet standing">
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <template v-if="sheet && test">
      <div class="row spread">
        <h1>{{ station?.name }}</h1>
        <div class="row">
          <router-link :to="{ name: 'day', params: { dayId: props.dayId } }">{{ sheet.day.name }}</router-link>
          <select
            aria-label="Station"
            :value="props.station"
            @change="
              router.push({
                name: 'station',
                params: { dayId: props.dayId, station: ($event.target as HTMLSelectElement).value },
              })
            "
          >
            <option v-for="(s, i) in sheet.day.stations" :key="s.name" :value="i">{{ s.name }}</option>
          </select>
        </div>
      </div>
      <div class="tabs" role="tablist" aria-label="Tests of this station">
        <button
          v-for="t in tests"
          :key="t.id"
          role="tab"
          :aria-selected="t.id === test.id"
          :class="{ on: t.id === test.id }"
          @click="chosen = t.id"
        >
          {{ t.name }}
        </button>
      </div>
      <!-- On a phone the golfers have the room: how it is done is one tap away. -->
      <details class="setup" :open="!phone">
        <summary>How it is done</summary>
        {{ test.setup }} <span v-if="test.say" class="say">“{{ test.say }}”</span>
        <span v-if="test.voids?.length" class="quiet"> Does not count: {{ test.voids.join('; ') }}.</span>
      </details>
      <template v-for="r in rows" :key="r.golfer.id">
        <SheetTroubles v-if="typings.get(r.golfer.id)" :typing="typings.get(r.golfer.id)!" :who="r.golfer.name" />
      </template>
      <div class="work">
        <StationTable
          v-if="drawn > 1"
          ref="table"
          v-model="here"
          :rows="rows"
          :test="test"
          :typings="typings"
          :units="units"
          :day="sheet.day.date"
          :start="sheet.day.start"
          :across="across"
          @put="put"
          @pain="dialogs.askPain"
          @skip="dialogs.askSkip"
          @undo="takeBack"
          @redo="bringBack"
        />
        <StationNext
          v-if="drawn > 1"
          :rows="rows"
          :test="test"
          :row="here.row"
          :day="sheet.day.date"
          :start="sheet.day.start"
          :shown="shown"
        />
      </div>
      <div v-if="drawn > 1" class="quiet">
        <label class="row"
          ><input v-model="across" type="checkbox" /> Enter goes to the next trial first (otherwise to the next
          golfer)</label
        >
        <span class="keys"
          ><kbd>Enter</kbd> next · <kbd>p</kbd> pain · <kbd>s</kbd> stopped · <kbd>k</kbd> skipped ·
          <kbd>Ctrl Z</kbd> undo · <kbd>Ctrl Y</kbd> redo.</span
        >
        <span v-if="juniors" class="juniors">Juniors are among them: nobody is ranked on this page.</span>
      </div>
      <Teleport defer to="#foot-actions">
        <TrialActions
          v-if="drawn > 2"
          :what="trialChosen"
          :disabled="locked(rows[here.row], test) || !rows[here.row]"
          :undo="order.length > 0"
          :redo="undone.length > 0"
          :parts="hasParts(test)"
          @fields="dialogs.askFields(here)"
          @pain="dialogs.askPain(here)"
          @stopped="table?.write(here, { status: 'stopped' })"
          @skip="dialogs.askSkip(here)"
          @undo="takeBack"
          @redo="bringBack"
        />
      </Teleport>
    </template>
    <p v-else-if="!error" class="quiet">Loading …</p>
    <TrialDialogs
      v-if="meta"
      :dialogs="dialogs"
      :regions="meta.regions"
      :stops-at="meta.painStops"
      :test="test"
      :unit="test ? unitShown(test, units) : ''"
    />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  overflow-x: auto;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
.tabs button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 8px 14px;
  white-space: nowrap;
  flex: none;
  min-height: 44px;
  cursor: pointer;
}
.tabs button.on {
  box-shadow: inset 0 -3px 0 rgb(var(--v-theme-secondary));
  font-weight: 650;
}

.juniors {
  display: block;
}
.setup {
  margin: 8px 0;
  max-width: 90ch;
}
@media (min-width: 701px) {
  .setup summary {
    display: none;
  }
}
@media (pointer: coarse) {
  .setup summary {
    padding: 10px 0;
  }
}
.work {
  display: grid;
  grid-template-columns: minmax(0, auto) minmax(240px, 1fr);
  gap: 28px;
}
@media (max-width: 900px) {
  .work {
    display: flex;
    flex-direction: column-reverse;
    gap: 4px;
  }
}
@media (pointer: coarse) {
  .keys {
    display: none;
  }
}
.say {
  font-style: italic;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
kbd {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
</style>
