<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import TermNote from '@/help/TermNote.vue'
import { addDays, longDay } from '@/parts/days'
import { ruleName } from '@/parts/rules'

import { between, gridOf, placeOf, walked, type Item } from './grid'
import PlanCell from './PlanCell.vue'
import { useDrag, type Dragged } from './useDrag'
import WeekFoot from './WeekFoot.vue'
import { useTurns } from '@/parts/turns'

type Edit = Schemas['Edit']

/**
 * The programme as a sheet: days down, weeks across. Items are chosen, typed into, dragged and moved by Alt with the
 * arrow keys; sessions are dragged between days; everything else is in the rail for what is chosen.
 */
const chosen = defineModel<string>({ required: true })
const all = defineModel<string[]>('all', { default: () => [] })
const props = defineProps<{
  programme: Schemas['Programme']
  slots: Schemas['SlotInfo'][]
  rules: Schemas['RuleResult'][]
  athleteId: string
  programmeId: string
  editable: boolean
  /** Why what was typed last was not taken. */
  error?: string
}>()
const emit = defineEmits<{
  add: [session: string]
  remove: [item: string]
  focus: [item: string]
  edit: [edit: Edit, done?: () => void]
  copy: [items: string[]]
  paste: [item: string]
  /** All of it is drawn: what stands beneath is not moved any more. */
  whole: []
}>()

const weeks = computed(() => props.programme.blocks.flatMap((b) => b.weeks))
const days = computed(() => gridOf(props.programme, props.slots))
/** Days drawn so far; what is done at home and what the weeks add up to come after them. */
const drawn = useTurns(() => days.value.length + 2)
watch(drawn, (n) => n > days.value.length + 1 && emit('whole'))
const broken = (id: string) => props.rules.filter((r) => r.status === 'broken' && r.at === id)

// What is typed into a cell stays there until it is taken or left.
const typing = ref<{ id: string; first?: string | undefined }>()
const typedAt = (id: string) => (typing.value?.id === id ? (typing.value.first ?? '') || undefined : undefined)
const isTyping = (id: string) => typing.value?.id === id
function type(cell: Item, first?: string) {
  if (!props.editable || cell.locked) return
  chosen.value = cell.id
  typing.value = { id: cell.id, first }
}
function take(cell: Item, text: string, line: boolean) {
  const several = all.value.length > 1 && all.value.includes(cell.id)
  emit(
    'edit',
    {
      kind: 'dose',
      at: cell.id,
      text,
      scope: line ? 'line' : 'cell',
      ...(several ? { also: all.value.filter((id) => id !== cell.id) } : {}),
    },
    () => {
      if (!isTyping(cell.id)) return
      const active = document.activeElement
      typing.value = undefined
      // Where the click went elsewhere, the hand is there already.
      void nextTick(() => {
        if (!document.activeElement || document.activeElement === document.body || active?.closest('.typing'))
          emit('focus', cell.id)
      })
    },
  )
}
function leave(cell: Item) {
  typing.value = undefined
  emit('focus', cell.id)
}
watch(
  () => props.editable,
  () => (typing.value = undefined),
)

/** A press that adds to what is chosen leaves the keyboard where it is. */
function keepFocus(event: MouseEvent) {
  if (event.shiftKey || event.ctrlKey || event.metaKey) event.preventDefault()
}
function pick(event: MouseEvent, cell: Item) {
  if (event.shiftKey && chosen.value) {
    all.value = between(days.value, chosen.value, cell.id)
    return
  }
  if (event.ctrlKey || event.metaKey) {
    const list = all.value.length ? all.value : chosen.value ? [chosen.value] : []
    all.value = list.includes(cell.id) ? list.filter((id) => id !== cell.id) : [...list, cell.id]
    return
  }
  all.value = []
  chosen.value = cell.id
}
const chosenAll = (cell: Item) => (all.value.length > 1 && all.value.includes(cell.id) ? all.value : [cell.id])

/** Moves an item one place up or down in its session; beyond its ends into the session of the day before or after. */
function shift(cell: Item, by: 1 | -1) {
  const place = placeOf(props.programme, cell.id)
  if (!place) return
  const at = place.items.findIndex((i) => i.id === cell.id)
  const other = place.items[by < 0 ? at - 1 : at + 2]
  if (by < 0 ? at > 0 : at < place.items.length - 1) {
    if (other) emit('edit', { kind: 'move', at: cell.id, to: place.id, before: other.id })
    else toEnd(cell, place.id, place.items)
    return
  }
  const k = place.week.sessions.findIndex((s) => s.id === place.id)
  const next = k < 0 ? undefined : place.week.sessions[k + by]
  if (!next) return
  const first = next.items[0]
  if (by > 0 && first) emit('edit', { kind: 'move', at: cell.id, to: next.id, before: first.id })
  else emit('edit', { kind: 'move', at: cell.id, to: next.id })
}
/** Behind the last item: the last one moves before it. */
function toEnd(cell: Item, session: string, items: Item[]) {
  const last = items.at(-1)
  if (last && last.id !== cell.id) emit('edit', { kind: 'move', at: last.id, to: session, before: cell.id })
}

function key(event: KeyboardEvent, cell: Item) {
  const ctrl = event.ctrlKey || event.metaKey
  const k = event.key
  if (event.altKey && (k === 'ArrowUp' || k === 'ArrowDown')) {
    event.preventDefault()
    if (props.editable) shift(cell, k === 'ArrowUp' ? -1 : 1)
    return
  }
  if (ctrl && (k === 'c' || k === 'x')) {
    event.preventDefault()
    emit('copy', chosenAll(cell))
    return
  }
  if (ctrl && k === 'v' && props.editable) {
    event.preventDefault()
    emit('paste', cell.id)
    return
  }
  if (ctrl) return
  const next = walked(days.value, cell.id, k)
  if (k.startsWith('Arrow')) event.preventDefault()
  if (next && event.shiftKey) {
    const anchor = all.value[0] ?? cell.id
    emit('focus', next.id)
    void nextTick(() => (all.value = [anchor, ...between(days.value, anchor, next.id).filter((id) => id !== anchor)]))
    return
  }
  if (next) {
    all.value = []
    emit('focus', next.id)
  }
  if (!props.editable) return
  if (k === 'Delete' || k === 'Backspace') {
    event.preventDefault()
    emit('remove', cell.id)
  } else if (k === 'Enter' || k === 'F2') {
    event.preventDefault()
    type(cell)
  } else if (/^[0-9@]$/.test(k)) {
    event.preventDefault()
    type(cell, k)
  } else if (k === 'l') {
    emit('edit', { kind: 'lock', at: cell.id, also: chosenAll(cell).filter((id) => id !== cell.id), on: !cell.locked })
  }
}

/** A drop says "item:id", "end:session" or "day:date". */
function drop(what: Dragged) {
  const [kind, at] = [what.over.slice(0, what.over.indexOf(':')), what.over.slice(what.over.indexOf(':') + 1)]
  if (what.kind === 'session') {
    const date = kind === 'day' ? at : undefined
    if (date) emit('edit', { kind: 'move', at: what.id, date })
    return
  }
  const also = all.value.includes(what.id) ? all.value.filter((id) => id !== what.id) : []
  if (kind === 'item' && at !== what.id && !also.includes(at)) {
    const place = placeOf(props.programme, at)
    if (place) emit('edit', { kind: 'move', at: what.id, also, to: place.id, before: at })
  } else if (kind === 'end') emit('edit', { kind: 'move', at: what.id, also, to: at })
}
const { dragged, press } = useDrag(drop)
const grab = (event: PointerEvent, kind: Dragged['kind'], id: string) => {
  if (props.editable && !isTyping(id)) press(event, kind, id)
}
const landing = (where: string) => dragged.value?.over === where
const week7 = (w: Schemas['Week']) => Array.from({ length: 7 }, (_, d) => addDays(w.start, d))
const initial = (date: string) => longDay(date).slice(0, 2)
const takenBy = (w: Schemas['Week'], date: string) => w.sessions.find((s) => s.date === date)?.letter

function sessionKey(event: KeyboardEvent, s: Schemas['PlannedSession']) {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  if (!event.altKey || !by || !props.editable) return
  event.preventDefault()
  emit('edit', { kind: 'move', at: s.id, date: addDays(s.date, by) })
}
</script>

<template>
  <table class="plan" :class="{ moving: dragged }">
    <thead>
      <tr>
        <th scope="col"><span class="visually-hidden">Day and exercise</span></th>
        <th v-for="w in weeks" :key="w.id" scope="col">
          <button class="plain head" :class="{ on: chosen === w.id }" :data-id="w.id" @click="chosen = w.id">
            Week {{ w.number }}
          </button>
          <span class="quiet small">{{ w.kindWords }}</span>
          <span v-if="w.locked" class="small lock"> locked</span>
          <span v-for="r in broken(w.id)" :key="r.rule" class="mark" :class="r.severity" :title="r.text">{{
            ruleName(r.rule)
          }}</span>
          <span v-if="w.note" class="small quiet note">{{ w.note }}</span>
          <span v-if="dragged?.kind === 'session'" class="days">
            <span
              v-for="d in week7(w)"
              :key="d"
              class="day7 small"
              :class="{ landing: landing(`day:${d}`), taken: takenBy(w, d) }"
              :data-drop="`day:${d}`"
              >{{ initial(d) }}{{ takenBy(w, d) ? ` ${takenBy(w, d)}` : '' }}</span
            >
          </span>
        </th>
      </tr>
    </thead>
    <tbody v-for="day in days.slice(0, drawn)" :key="day.key">
      <tr class="day">
        <th scope="rowgroup">
          Day {{ day.letter }} <span class="small quiet">{{ day.title }}</span>
        </th>
        <td v-for="(s, w) in day.sessions" :key="w" :data-drop="s ? `day:${s.date}` : undefined">
          <div v-if="s" class="session" :class="{ on: chosen === s.id, landing: dragged && landing(`day:${s.date}`) }">
            <router-link
              :to="{ name: 'card', params: { id: props.athleteId, programmeId: props.programmeId, sessionId: s.id } }"
              class="small"
              draggable="false"
              >{{ longDay(s.date) }}</router-link
            >
            <span class="small quiet num minutes">{{ Math.round(s.minutes) }} of {{ s.budgetMinutes }} min</span>
            <span v-if="s.locked" class="small lock"> locked</span>
            <button
              class="plain small handle no-print"
              :data-id="s.id"
              :aria-label="`Session ${longDay(s.date)}: move, copy, lock`"
              :title="props.editable ? 'Drag to another day, or press for more' : 'More'"
              @pointerdown="grab($event, 'session', s.id)"
              @click="chosen = s.id"
              @keydown="sessionKey($event, s)"
            >
              ⋮⋮
            </button>
            <span v-for="r in broken(s.id)" :key="r.rule + r.text" class="mark" :class="r.severity" :title="r.text">{{
              ruleName(r.rule)
            }}</span>
            <span v-if="s.note" class="small quiet note">{{ s.note }}</span>
          </div>
          <span v-else class="small quiet">no session</span>
        </td>
      </tr>
      <tr v-for="row in day.rows" :key="row.key">
        <th scope="row">
          {{ row.name }} <span class="small quiet">{{ row.slot }}</span>
        </th>
        <td v-for="(cell, w) in row.cells" :key="w">
          <PlanCell
            v-if="cell"
            :cell="cell"
            :row-name="row.name"
            :chosen="cell.id === chosen"
            :also="all.includes(cell.id)"
            :broken="broken(cell.id)"
            :typing="isTyping(cell.id) ? (typedAt(cell.id) ?? cell.typed) : undefined"
            :error="isTyping(cell.id) ? (props.error ?? '') : ''"
            :landing="!!dragged && landing(`item:${cell.id}`)"
            @take="(text, line) => take(cell, text, line)"
            @leave="leave(cell)"
            @mousedown="keepFocus"
            @click="pick($event, cell)"
            @dblclick="type(cell)"
            @pointerdown="grab($event, 'item', cell.id)"
            @focus="chosen = cell.id"
            @keydown="key($event, cell)"
          />
        </td>
      </tr>
      <tr v-if="props.editable" class="addrow">
        <td></td>
        <td v-for="(s, w) in day.sessions" :key="w">
          <button
            v-if="s"
            class="plain small quiet"
            :class="{ landing: !!dragged && landing(`end:${s.id}`) }"
            :data-drop="`end:${s.id}`"
            @click="emit('add', s.id)"
          >
            + add
          </button>
        </td>
      </tr>
    </tbody>
    <tbody v-if="drawn > days.length && weeks.some((w) => w.home.length)">
      <tr class="day">
        <th scope="rowgroup">Home <span class="small quiet">short doses</span></th>
        <td v-for="w in weeks" :key="w.id" class="small">
          <div
            v-for="h in w.home"
            :key="h.id"
            class="home"
            :data-drop="`end:${h.id}`"
            :class="{ landing: !!dragged && landing(`end:${h.id}`) }"
          >
            {{ longDay(h.date) }}
            <button
              v-for="i in h.items"
              :key="i.id"
              class="plain"
              :class="{ chosen: i.id === chosen }"
              :data-id="i.id"
              @click="pick($event, i)"
              @pointerdown="grab($event, 'item', i.id)"
            >
              {{ i.name }}, {{ i.doseText }}<span v-if="i.loadText" class="quiet">, {{ i.loadText }}</span
              ><span v-if="i.locked" class="lock"> locked</span>
            </button>
          </div>
        </td>
      </tr>
    </tbody>
    <tfoot v-if="drawn > days.length + 1">
      <tr>
        <th scope="row" class="small">Sets by <TermNote term="zones">zone</TermNote>, and what adds up</th>
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
.head {
  font: inherit;
  margin-right: 6px;
}
.head.on {
  text-decoration: underline;
  text-decoration-color: rgb(var(--v-theme-action));
  text-underline-offset: 4px;
}
.session {
  position: relative;
  padding-right: 26px;
}
.session > a {
  white-space: nowrap;
}
.session.on {
  box-shadow: inset 3px 0 rgb(var(--v-theme-action));
  padding-left: 6px;
}
.handle {
  position: absolute;
  right: 0;
  top: -2px;
  min-width: 24px;
  min-height: 24px;
  cursor: grab;
  letter-spacing: -2px;
  color: rgb(var(--v-theme-primary));
}
@media (pointer: coarse) {
  .handle {
    min-width: 44px;
    min-height: 44px;
  }
  .session {
    padding-right: 46px;
  }
}
.days {
  display: flex;
  gap: 2px;
  margin-top: 4px;
}
.day7 {
  flex: 1;
  min-height: 30px;
  display: grid;
  place-items: center;
  border: 1px dashed rgb(var(--v-theme-line));
  font-weight: 400;
}
.day7.taken {
  border-style: solid;
}
.landing {
  background: rgb(var(--v-theme-surface-variant));
  outline: 2px solid rgb(var(--v-theme-action));
}
.lock {
  font-weight: 650;
}
.note {
  display: block;
  font-style: italic;
}
.minutes {
  display: block;
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
.plan :deep(.mark) {
  font-size: var(--small);
  font-weight: 650;
  margin-left: 4px;
  padding: 0 4px;
  border: 1px solid currentcolor;
  border-radius: 2px;
  align-self: flex-start;
  display: inline-block;
}
.plan :deep(.mark.blocking) {
  color: rgb(var(--v-theme-error));
}
.plan :deep(.mark.warning) {
  color: rgb(var(--v-theme-warning));
}
.plan :deep(.mark.advice) {
  color: rgb(var(--v-theme-primary));
  border-style: dashed;
}
.addrow td {
  padding: 2px 6px;
}
.addrow button {
  width: 100%;
  text-align: left;
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
  .addrow {
    display: none;
  }
}
</style>
