<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'

import { gridOf, walked, type Item } from './grid'
import WeekFoot from './WeekFoot.vue'

/** The programme as a sheet: kinds of day down, weeks across. */
const chosen = defineModel<string>({ required: true })
const props = defineProps<{
  programme: Schemas['Programme']
  slots: Schemas['SlotInfo'][]
  rules: Schemas['RuleResult'][]
  athleteId: string
  programmeId: string
  editable: boolean
}>()
const emit = defineEmits<{ add: [session: string]; remove: [item: string]; focus: [item: string] }>()

const weeks = computed(() => props.programme.blocks.flatMap((b) => b.weeks))
const days = computed(() => gridOf(props.programme, props.slots))
const broken = (id: string) => props.rules.filter((r) => r.status === 'broken' && r.at === id)

function key(event: KeyboardEvent, cell: Item) {
  const next = walked(days.value, cell.id, event.key)
  if (event.key.startsWith('Arrow')) event.preventDefault()
  if (next) emit('focus', next.id)
  if (event.key === 'Delete' && props.editable) {
    event.preventDefault()
    emit('remove', cell.id)
  }
}
</script>

<template>
  <table class="plan">
    <thead>
      <tr>
        <th scope="col"></th>
        <th v-for="w in weeks" :key="w.id" scope="col">
          Week {{ w.number }}
          <span class="quiet small">{{ w.kindWords }}</span>
          <span v-for="r in broken(w.id)" :key="r.rule" class="mark" :class="r.severity" :title="r.text">{{
            r.rule
          }}</span>
        </th>
      </tr>
    </thead>
    <tbody v-for="day in days" :key="day.key">
      <tr class="day">
        <th scope="rowgroup">
          Day {{ day.letter }} <span class="small quiet">{{ day.title }}</span>
        </th>
        <td v-for="(s, w) in day.sessions" :key="w">
          <template v-if="s">
            <router-link
              :to="{ name: 'card', params: { id: props.athleteId, programmeId: props.programmeId, sessionId: s.id } }"
              class="small"
              >{{ longDay(s.date) }}</router-link
            >
            <span class="small quiet num minutes">{{ Math.round(s.minutes) }} of {{ s.budgetMinutes }} min</span>
            <span v-for="r in broken(s.id)" :key="r.rule + r.text" class="mark" :class="r.severity" :title="r.text">{{
              r.rule
            }}</span>
          </template>
          <span v-else class="small quiet">no session</span>
        </td>
      </tr>
      <tr v-for="row in day.rows" :key="row.key">
        <th scope="row">
          {{ row.name }} <span class="small quiet">{{ row.slot }}</span>
        </th>
        <td v-for="(cell, w) in row.cells" :key="w">
          <button
            v-if="cell"
            class="plain cell"
            :class="{ on: cell.id === chosen, edited: cell.edited }"
            :data-id="cell.id"
            :data-place="cell.place"
            :aria-pressed="cell.id === chosen"
            @click="chosen = cell.id"
            @focus="chosen = cell.id"
            @keydown="key($event, cell)"
          >
            <span v-if="cell.name !== row.name" class="small other">{{ cell.name }}</span>
            <span class="num dose">{{ cell.doseText }}</span>
            <span class="small quiet">{{ cell.loadText }}</span>
            <span v-for="b in broken(cell.id)" :key="b.rule" class="mark" :class="b.severity" :title="b.text">{{
              b.rule
            }}</span>
          </button>
        </td>
      </tr>
      <tr v-if="props.editable" class="addrow">
        <th></th>
        <td v-for="(s, w) in day.sessions" :key="w">
          <button v-if="s" class="plain small quiet" @click="emit('add', s.id)">+ add</button>
        </td>
      </tr>
    </tbody>
    <tbody v-if="weeks.some((w) => w.home.length)">
      <tr class="day">
        <th scope="rowgroup">Home <span class="small quiet">short doses</span></th>
        <td v-for="w in weeks" :key="w.id" class="small">
          <div v-for="h in w.home" :key="h.id" class="home">
            {{ longDay(h.date) }}
            <button
              v-for="i in h.items"
              :key="i.id"
              class="plain"
              :class="{ chosen: i.id === chosen }"
              @click="chosen = i.id"
            >
              {{ i.name }}, {{ i.doseText }}<span v-if="i.loadText" class="quiet">, {{ i.loadText }}</span>
            </button>
          </div>
        </td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th scope="row" class="small">Sets by zone, and what adds up</th>
        <td v-for="w in weeks" :key="w.id"><WeekFoot :week="w" /></td>
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
.plan {
  border-collapse: collapse;
  width: 100%;
  margin-top: 8px;
  table-layout: fixed;
}
@media (max-width: 900px) {
  .plan {
    min-width: 820px;
  }
}
.plan th {
  text-align: left;
  font-weight: 550;
  vertical-align: top;
  padding: 3px 8px 3px 0;
}
.plan thead th {
  font-weight: 650;
  position: sticky;
  top: 0;
  background: rgb(var(--v-theme-background));
  z-index: 1;
}
.plan td {
  vertical-align: top;
  padding: 1px 6px 1px 0;
}
.plan tr {
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
.plan th:first-child {
  width: 21%;
}
.day th,
.day td {
  padding-top: 12px;
  border-bottom: 2px solid rgb(var(--v-theme-line));
}
.day th {
  font-weight: 700;
}
.cell {
  display: flex;
  flex-direction: column;
  width: 100%;
  padding: 3px 6px;
  border-left: 3px solid transparent;
  min-height: 40px;
}
.cell:hover {
  background: rgb(var(--v-theme-surface-variant));
}
.cell.on {
  background: rgb(var(--v-theme-surface));
  border-left-color: rgb(var(--v-theme-action));
}
.cell.edited .dose::after {
  content: ' ✎';
}
.dose {
  white-space: normal;
}
.minutes {
  margin-left: 8px;
}
.other {
  font-weight: 650;
}
.home {
  padding-bottom: 6px;
}
.home button {
  display: block;
  padding-left: 8px;
}
.chosen {
  font-weight: 650;
}
.mark {
  font-size: 0.72rem;
  font-weight: 650;
  margin-left: 4px;
  padding: 0 4px;
  border: 1px solid currentcolor;
  border-radius: 2px;
  align-self: flex-start;
  display: inline-block;
}
.mark.blocking {
  color: rgb(var(--v-theme-error));
}
.mark.warning {
  color: rgb(var(--v-theme-warning));
}
.mark.advice {
  color: rgb(var(--v-theme-primary));
  border-style: dashed;
}
.addrow td {
  padding: 2px 6px;
}
@media print {
  .plan {
    min-width: 0;
    font-size: 8.5pt;
  }
  .plan thead th {
    position: static;
  }
  .plan tr {
    break-inside: avoid;
  }
  .plan tfoot {
    display: table-row-group;
  }
  .cell {
    min-height: 0;
    padding: 1px 4px;
  }
  .addrow {
    display: none;
  }
}
</style>
