<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { onKeyStroke } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { useAthlete, useForget, useMeta, useProgramme, useProgrammes } from '@/api/queries'
import { typing } from '@/keys/typing'
import AskFirst from '@/parts/AskFirst.vue'
import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'

import AddExercise from './AddExercise.vue'
import { gridOf, type Item } from './grid'
import IssueDialog from './IssueDialog.vue'
import ItemPanel from './ItemPanel.vue'
import RuleList from './RuleList.vue'
import { useProgrammeEdits } from './useProgrammeEdits'
import WeekFoot from './WeekFoot.vue'

const props = defineProps<{ id: string; programmeId?: string }>()
const router = useRouter()
const client = useQueryClient()
const forget = useForget()
const { data: meta } = useMeta()
const { data: golfer } = useAthlete(props.id)
const { data: list, error: listError } = useProgrammes(props.id)
const { data: view, error } = useProgramme(() => props.programmeId ?? '')
const { edit, step, issue, trouble, since } = useProgrammeEdits(view, props.id)

const school = ref('')
const selected = ref('')
const adding = ref('')
const issuing = ref(false)

watch(golfer, (g) => (school.value ||= g?.school ?? ''), { immediate: true })
watch(
  [list, () => props.programmeId],
  ([all, id]) => {
    const newest = all?.[0]
    if (!id && newest) void router.replace({ name: 'programme', params: { id: props.id, programmeId: newest.id } })
  },
  { immediate: true },
)

const draft = useMutation({
  mutationFn: (body: { school?: string; from?: string }) =>
    must(api.POST('/athletes/{athleteId}/programmes', { params: { path: { athleteId: props.id } }, body })),
  onSuccess: async (v) => {
    client.setQueryData(['programme', v.id], v)
    selected.value = ''
    await forget(props.id)
    void router.push({ name: 'programme', params: { id: props.id, programmeId: v.id } })
  },
})
/** What is drafted over an edited draft once the coach has said so. */
const over = ref<{ school?: string; from?: string }>()
const askingOver = computed({
  get: () => over.value !== undefined,
  set: (open: boolean) => {
    if (!open) over.value = undefined
  },
})
const openDraft = computed(() => list.value?.find((p) => p.status === 'draft'))
function draftAgain(body: { school?: string; from?: string }) {
  // A draft that was worked on is not drafted over without a question; Undo brings it back.
  if (openDraft.value && (!editable.value || view.value?.undo)) over.value = body
  else draft.mutate(body)
}
function draftOver() {
  if (over.value) draft.mutate(over.value)
  over.value = undefined
}
const discarding = ref(false)
const discard = useMutation({
  mutationFn: () =>
    must(api.DELETE('/programmes/{programmeId}', { params: { path: { programmeId: props.programmeId ?? '' } } })),
  onSuccess: async () => {
    discarding.value = false
    await client.invalidateQueries({ queryKey: ['programmes', props.id] })
    await forget(props.id)
    void router.push({ name: 'programme', params: { id: props.id } })
  },
})

const weeks = computed(() => view.value?.programme.blocks.flatMap((b) => b.weeks) ?? [])
const days = computed(() => (view.value && meta.value ? gridOf(view.value.programme, meta.value.slots) : []))
const broken = computed(() => view.value?.rules.filter((r) => r.status === 'broken') ?? [])
const at = (place: string) => broken.value.filter((r) => r.place === place)
const editable = computed(() => view.value?.status === 'draft')

const items = computed(() => {
  const m = new Map<string, Item>()
  for (const w of weeks.value) {
    for (const s of w.sessions) for (const i of s.items) m.set(i.place, i)
    for (const h of w.home) for (const i of h.items) m.set(i.place, i)
  }
  return m
})
const item = computed(() => items.value.get(selected.value))

const sheet = ref<HTMLElement>()
function focusCell(place: string) {
  void nextTick(() => sheet.value?.querySelector<HTMLElement>(`[data-place="${place}"]`)?.focus())
}
function choose(place: string) {
  selected.value = place
}
/** Arrow keys walk the sheet: up and down within a week, left and right between weeks. */
function walk(event: KeyboardEvent, day: number, row: number, week: number) {
  const moves: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const move = moves[event.key]
  if (move) {
    event.preventDefault()
    const flat = days.value.flatMap((d) => d.rows)
    const before = days.value.slice(0, day).reduce((n, d) => n + d.rows.length, 0)
    for (
      let r = before + row + move[0], w = week + move[1];
      r >= 0 && r < flat.length && w >= 0 && w < weeks.value.length;
      r += move[0], w += move[1]
    ) {
      const cell = flat[r]?.cells[w]
      if (cell) {
        choose(cell.place)
        focusCell(cell.place)
        return
      }
    }
  }
  if (event.key === 'Delete' && editable.value && selected.value) {
    event.preventDefault()
    edit.mutate({ kind: 'remove', place: selected.value, scope: 'cell' })
  }
}
// After a change the place that was chosen keeps the focus: where its item went, the one that took its place, or the
// last one there is.
watch(
  () => view.value?.revision,
  (now, before) => {
    if (now === undefined || before === undefined || !selected.value) return
    void nextTick(() => {
      if (document.activeElement !== document.body && document.activeElement !== null) return
      const session = selected.value.replace(/[^.]+$/, '')
      const there = items.value.has(selected.value)
        ? selected.value
        : [...items.value.keys()].filter((p) => p.startsWith(session)).at(-1)
      if (there) focusCell(there)
    })
  },
)
onKeyStroke(['z', 'Z', 'y'], (event) => {
  if (!(event.ctrlKey || event.metaKey) || typing(event) || !editable.value) return
  event.preventDefault()
  step.mutate(event.key === 'z' && !event.shiftKey ? -1 : 1)
})
const slotName = (s: string) => s.replaceAll('-', ' ')
</script>

<template>
  <div class="split">
    <div ref="sheet" class="sheet">
      <p v-if="error || listError" class="stop" role="alert">{{ (error ?? listError)?.message }}</p>
      <div class="row spread top">
        <div class="row">
          <h1 class="visually-hidden">Programme</h1>
          <select
            v-if="list && list.length"
            :value="props.programmeId"
            aria-label="Version"
            @change="
              router.push({
                name: 'programme',
                params: { id: props.id, programmeId: ($event.target as HTMLSelectElement).value },
              })
            "
          >
            <option v-for="p in list" :key="p.id" :value="p.id">
              {{ p.status === 'draft' ? 'Draft' : `Version ${p.version}` }}, from {{ longDay(p.startDate) }}
            </option>
          </select>
          <strong v-if="view" data-testid="status">{{
            view.status === 'draft' ? 'Draft' : `Version ${view.version}, issued ${longDay(view.issuedOn ?? '')}`
          }}</strong>
          <span v-if="view" class="quiet small"
            >{{ view.programme.schoolName }} · {{ view.programme.blocks[0]?.emphasis }}</span
          >
        </div>
        <div class="row">
          <select v-model="school" aria-label="School">
            <option v-for="s in meta?.schools ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select>
          <v-btn :loading="draft.isPending.value" variant="outlined" @click="draftAgain({ school })">{{
            editable ? 'Draft again' : 'Draft a programme'
          }}</v-btn>
          <v-btn v-if="view && !editable" @click="draftAgain({ from: view.id })">Change this version</v-btn>
          <v-btn v-if="editable" variant="flat" color="action" @click="issuing = true">Issue…</v-btn>
        </div>
      </div>
      <p v-if="draft.error.value" class="stop" role="alert">{{ draft.error.value.message }}</p>
      <div v-if="trouble" class="stop" role="alert">
        <p>{{ trouble }}</p>
        <ul v-if="since.length" data-testid="since">
          <li v-for="(d, i) in since" :key="i">{{ d }}</li>
        </ul>
      </div>
      <EmptyState
        v-if="list && list.length === 0 && !draft.error.value"
        title="No programme yet"
        text="Choose a school and draft four weeks. Nothing is issued until you say so."
      >
        <v-btn variant="flat" color="action" :loading="draft.isPending.value" @click="draft.mutate({ school })"
          >Draft a programme</v-btn
        >
      </EmptyState>
      <template v-if="view">
        <p class="small summary">{{ view.programme.summary }}</p>
        <details v-if="view.programme.notes.length" class="small attention">
          <summary>{{ view.programme.notes.length }} things were assumed or left out</summary>
          <ul>
            <li v-for="n in view.programme.notes" :key="n">{{ n }}</li>
          </ul>
        </details>
        <table class="plan">
          <thead>
            <tr>
              <th scope="col"></th>
              <th v-for="w in weeks" :key="w.place" scope="col">
                Week {{ w.number }}
                <span class="quiet small">{{ w.kind === 'easier' ? 'easier, retest' : 'rising' }}</span>
                <span v-for="r in at(w.place)" :key="r.rule" class="mark" :class="r.severity" :title="r.text">{{
                  r.rule
                }}</span>
              </th>
            </tr>
          </thead>
          <tbody v-for="(day, d) in days" :key="day.letter">
            <tr class="day">
              <th scope="rowgroup">
                Day {{ day.letter }} <span class="small quiet">{{ day.title }}</span>
              </th>
              <td v-for="(s, w) in day.sessions" :key="w">
                <template v-if="s">
                  <router-link
                    :to="{ name: 'card', params: { id: props.id, programmeId: view.id, place: s.place } }"
                    class="small"
                    >{{ longDay(s.date) }}</router-link
                  >
                  <span class="small quiet num minutes">{{ Math.round(s.minutes) }} of {{ s.budgetMinutes }} min</span>
                  <span
                    v-for="r in at(s.place)"
                    :key="r.rule + r.text"
                    class="mark"
                    :class="r.severity"
                    :title="r.text"
                    >{{ r.rule }}</span
                  >
                </template>
                <span v-else class="small quiet">no session</span>
              </td>
            </tr>
            <tr v-for="(row, r) in day.rows" :key="row.key">
              <th scope="row">
                {{ row.name }} <span class="small quiet">{{ slotName(row.slot) }}</span>
              </th>
              <td v-for="(cell, w) in row.cells" :key="w">
                <button
                  v-if="cell"
                  class="plain cell"
                  :class="{ on: cell.place === selected, edited: cell.edited }"
                  :data-place="cell.place"
                  :aria-pressed="cell.place === selected"
                  @click="choose(cell.place)"
                  @focus="choose(cell.place)"
                  @keydown="walk($event, d, r, w)"
                >
                  <span v-if="cell.name !== row.name" class="small other">{{ cell.name }}</span>
                  <span class="num dose">{{ cell.doseText }}</span>
                  <span class="small quiet">{{ cell.loadText }}</span>
                  <span v-for="b in at(cell.place)" :key="b.rule" class="mark" :class="b.severity" :title="b.text">{{
                    b.rule
                  }}</span>
                </button>
              </td>
            </tr>
            <tr v-if="editable" class="addrow">
              <th></th>
              <td v-for="(s, w) in day.sessions" :key="w">
                <button v-if="s" class="plain small quiet" @click="adding = s.place">+ add</button>
              </td>
            </tr>
          </tbody>
          <tbody v-if="weeks.some((w) => w.home.length)">
            <tr class="day">
              <th scope="rowgroup">Home <span class="small quiet">range work, two short doses</span></th>
              <td v-for="w in weeks" :key="w.place" class="small">
                <div v-for="h in w.home" :key="h.place" class="home">
                  {{ longDay(h.date) }}
                  <button
                    v-for="i in h.items"
                    :key="i.place"
                    class="plain"
                    :class="{ chosen: i.place === selected }"
                    @click="choose(i.place)"
                  >
                    {{ i.name }}, {{ i.doseText }}
                  </button>
                </div>
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row" class="small">Sets by zone, and what adds up</th>
              <td v-for="w in weeks" :key="w.place"><WeekFoot :week="w" /></td>
            </tr>
          </tfoot>
        </table>
        <p v-if="editable" class="small">
          <v-btn size="small" :loading="discard.isPending.value" @click="discarding = true">Discard this draft…</v-btn>
        </p>
        <Teleport defer to="#foot-actions">
          <template v-if="editable">
            <v-btn size="small" :disabled="!view.undo" :title="view.undo" @click="step.mutate(-1)"
              >Undo{{ view.undo ? ': ' + view.undo : '' }}</v-btn
            >
            <v-btn size="small" :disabled="!view.redo" :title="view.redo" @click="step.mutate(1)">Redo</v-btn>
          </template>
        </Teleport>
      </template>
    </div>
    <ReasonRail :title="item ? item.name : 'Rules'">
      <ItemPanel
        v-if="item && view"
        :key="item.place + view.revision"
        :item="item"
        :programme-id="view.id"
        :rules="at(item.place)"
        :editable="editable"
        :load-step-kg="view.loadStepKg"
        :busy="edit.isPending.value"
        @edit="edit.mutate"
        @close="selected = ''"
      />
      <RuleList v-else-if="view" :rules="view.rules" @go="((selected = $event), focusCell($event))" />
    </ReasonRail>
    <AskFirst v-model="askingOver" title="Draft over the draft that is open?" verb="Draft over it" @yes="draftOver">
      There is a draft with changes made by hand. A new draft takes its place; Undo, at the foot of the page, brings the
      old one back.
    </AskFirst>
    <AskFirst
      v-model="discarding"
      title="Discard this draft?"
      verb="Discard it"
      :busy="discard.isPending.value"
      :error="discard.error.value?.message"
      @yes="discard.mutate()"
    >
      The draft and every step of it are gone for good. Issued versions stay.
    </AskFirst>
    <AddExercise
      v-if="view && meta"
      :place="adding"
      :programme-id="view.id"
      :slots="meta.slots"
      @close="adding = ''"
      @edit="(edit.mutate($event), (adding = ''))"
    />
    <IssueDialog
      v-if="view"
      v-model="issuing"
      :rules="view.rules"
      :error="issue.error.value?.message"
      :busy="issue.isPending.value"
      @issue="issue.mutate($event, { onSuccess: () => (issuing = false) })"
    />
  </div>
</template>

<style scoped>
.sheet {
  padding: 10px 16px 60px;
  overflow-x: auto;
}
@media print {
  .sheet {
    page: across;
    padding: 0;
    overflow: visible;
  }
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
  .addrow,
  select {
    display: none;
  }
}
.summary {
  margin: 6px 0;
  max-width: 900px;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 5px 6px;
}
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
</style>
