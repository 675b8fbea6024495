<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Schemas } from '@/api/client'
import { useAthlete, useMeta, useProgramme, useProgrammes } from '@/api/queries'
import { vFirst } from '@/keys/first'
import { typing } from '@/keys/typing'
import { useAddress } from '@/parts/address'
import AskFirst from '@/parts/AskFirst.vue'
import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'
import { LateDialog, lateDialog } from '@/parts/late'

import AnswerStrip from './AnswerStrip.vue'
import DifferenceList from './DifferenceList.vue'
import { itemsOf as listItems } from './grid'
import ItemPanel from './ItemPanel.vue'
import PartPanel from './PartPanel.vue'
import PlanSheet from './PlanSheet.vue'
import ProgrammeHead from './ProgrammeHead.vue'
import RuleList from './RuleList.vue'
import SeveralPanel from './SeveralPanel.vue'
import { useChosen } from './useChosen'
import { useClip } from './useClip'
import { useDrafting } from './useDrafting'
import { useLive } from './useLive'
import { useProgrammeEdits } from './useProgrammeEdits'
import { useTurns } from '@/parts/turns'

const FirstDraftDialog = lateDialog(() => import('./FirstDraftDialog.vue'))
const ClashDialog = lateDialog(() => import('./ClashDialog.vue'), { opens: 'clash' })
const ReplaceDialog = lateDialog(() => import('./ReplaceDialog.vue'))
const VersionDialog = lateDialog(() => import('./VersionDialog.vue'))
const IssueDialog = lateDialog(() => import('./IssueDialog.vue'))
const AddExercise = lateDialog(() => import('./AddExercise.vue'), { opens: 'at' })

type Edit = Schemas['Edit']

const props = defineProps<{ id: string; programmeId?: string }>()
const router = useRouter()
const route = useRoute()
const { data: meta } = useMeta()
const { data: golfer } = useAthlete(props.id)
const { data: list, error: listError } = useProgrammes(props.id)
const { data: view, error } = useProgramme(() => props.programmeId ?? '')
const { edit, step, issue, withdraw, clash, decide, trouble } = useProgrammeEdits(view, props.id)
const { draft, preview, asking, lacking, draftFirst, draftAgain, draftOver, discarding, discard, bringIn } =
  useDrafting(props.id, list, view, golfer)
const { seen } = useLive(view)
const { clip, copy, copyItems, paste } = useClip()
/** Drawn so far: what the programme answers, then its sheet. */
const drawn = useTurns(() => (view.value ? 2 : 0))
/** Whether the sheet is there to its end. */
const whole = ref(false)
const sheet = ref<HTMLElement>()
const { id: chosen, all, item, session, week, focus, neighbour } = useChosen(view, sheet)

// The school that is drafted by and what is chosen stand in the address.
const asked = useAddress('school')
const school = computed({
  get: () => asked.value || (golfer.value?.school ?? ''),
  set: (s) => (asked.value = s === golfer.value?.school ? '' : s),
})
const at = useAddress('at')
watch(view, (v) => v && at.value && !chosen.value && (chosen.value = at.value), { immediate: true })
watch(chosen, (now) => (at.value = now))
const adding = ref('')
const issuing = ref(false)
const comparing = ref(false)
const replacing = ref(false)
/** Why what was typed into a cell was not taken: it is said there. */
const typedError = ref('')
const several = computed(() => (all.value.length > 1 ? all.value : []))
const pasting = computed(() => (clip.value && clip.value.programme === view.value?.id ? clip.value.words : ''))
const pastes = (kind: string) => (clip.value?.kind === kind ? pasting.value : '')

function change(e: Edit, done?: () => void) {
  typedError.value = ''
  edit.send(e).then(done, (error: Error) => {
    if (e.text === undefined) return
    typedError.value = error.message
    trouble.value = ''
  })
}
function copyOf(ids: string[]) {
  const items = itemsOf(view.value?.programme)
  copyItems(
    view.value?.id ?? '',
    ids.flatMap((id) => items.find((i) => i.id === id) ?? []),
  )
}
function pasteAt(at: Parameters<typeof paste>[1]) {
  const e = view.value && paste(view.value, at)
  if (e) change(e)
}
function removeAll(ids: string[]) {
  change({ kind: 'remove', at: ids[0] ?? '', also: ids.slice(1) })
  all.value = []
}
const editable = computed(() => view.value?.status === 'draft')
const itemsOf = (p: Schemas['Programme'] | undefined) => (p ? listItems(p) : [])
const brokenAt = (id: string) => view.value?.rules.filter((r) => r.status === 'broken' && r.at === id) ?? []
/** Takes an item out; the hand goes on to its neighbour at once, so that the next key is meant for that. */
function remove(at: string) {
  const next = neighbour(at)
  if (several.value.includes(at)) {
    removeAll(several.value)
    return
  }
  edit.mutate({ kind: 'remove', at, scope: 'cell' })
  if (next) focus(next)
}
const railTitle = computed(() => {
  if (several.value.length && editable.value) return `${several.value.length} items`
  if (item.value) return item.value.name
  if (session.value) return `Day ${session.value.letter}, ${longDay(session.value.date)}`
  return week.value ? `Week ${week.value.number}` : 'Rules'
})
function copyPart() {
  const programme = view.value?.id ?? ''
  if (session.value)
    copy({
      programme,
      kind: 'session',
      ids: [session.value.id],
      words: `the session of ${longDay(session.value.date)}`,
    })
  else if (week.value) copy({ programme, kind: 'week', ids: [week.value.id], words: `week ${week.value.number}` })
}
const show = (programmeId: string) => router.push({ name: 'programme', params: { id: props.id, programmeId } })

// Led here to draft: it begins as soon as it is known that no draft is open.
watch(
  [list, golfer],
  async ([all, g]) => {
    if (!all || !g || route.query.draft === undefined) return
    await router.replace({ name: 'programme', params: { id: props.id } })
    if (!all.some((p) => p.status === 'draft')) draftAgain({ school: g.school })
  },
  { immediate: true },
)
watch(
  [list, () => props.programmeId],
  ([all, id]) => {
    const newest = all?.[0]
    if (!id && newest) void router.replace({ name: 'programme', params: { id: props.id, programmeId: newest.id } })
  },
  { immediate: true },
)
onKeyStroke(['z', 'Z', 'y'], (event) => {
  if (!(event.ctrlKey || event.metaKey) || typing(event) || !editable.value) return
  event.preventDefault()
  step.mutate(event.key === 'z' && !event.shiftKey ? -1 : 1)
})
/** F6 leads from the sheet into the rail and back to what is chosen; Escape leads back too. */
onKeyStroke(['F6', 'Escape'], (event) => {
  const rail = document.querySelector<HTMLElement>('.rail')
  const inRail = rail?.contains(document.activeElement)
  if (event.key === 'Escape' && !inRail) return
  if (document.querySelector('.v-overlay--active')) return
  event.preventDefault()
  if (inRail) sheet.value?.querySelector<HTMLElement>(`[data-id="${chosen.value}"]`)?.focus()
  else rail?.querySelector<HTMLElement>('input, select, textarea, button:not(.fold)')?.focus()
})
onKeyStroke(['c', 'v'], (event) => {
  // On a session or a week; the sheet has its own for items.
  if (!(event.ctrlKey || event.metaKey) || typing(event) || !(session.value || week.value)) return
  if (window.getSelection()?.toString()) return
  event.preventDefault()
  if (event.key === 'c') copyPart()
  else if (editable.value) pasteAt(session.value ? { session: chosen.value } : { week: chosen.value })
})
</script>

<template>
  <div class="split">
    <div ref="sheet" class="sheet">
      <p v-if="error || listError" class="stop" role="alert">{{ (error ?? listError)?.message }}</p>
      <ProgrammeHead
        v-model:school="school"
        :athlete-id="props.id"
        :list="list ?? []"
        :view="view"
        :schools="meta?.schools ?? []"
        :busy="draft.isPending.value"
        @show="show"
        @draft="draftAgain"
        @issue="issuing = true"
        @compare="comparing = true"
        @replace="replacing = true"
        @bring-in="bringIn.mutate"
      />
      <p v-if="bringIn.error.value" class="stop" role="alert">{{ bringIn.error.value.message }}</p>
      <p v-if="draft.error.value" class="stop" role="alert">
        {{ draft.error.value.message }}
        <router-link :to="{ name: 'intake', params: { id: props.id } }">To the intake</router-link>
      </p>
      <p v-if="trouble" class="stop" role="alert">{{ trouble }}</p>
      <p v-if="seen" class="small attention" role="status" data-testid="seen">
        {{ seen }}. <button class="plain" @click="seen = ''">Seen</button>
      </p>
      <p v-if="view?.status === 'withdrawn'" class="attention">
        Withdrawn on {{ longDay(view.withdrawnOn ?? '') }}: {{ view.withdrawnWhy }}
      </p>
      <EmptyState
        v-if="list && list.length === 0 && !draft.error.value"
        title="No programme yet"
        text="Choose a school and draft four weeks. Nothing is issued until you say so."
      >
        <v-btn variant="flat" color="action" :loading="draft.isPending.value" @click="draftAgain({ school })"
          >Draft a programme</v-btn
        >
      </EmptyState>
      <template v-if="view">
        <p class="small summary">{{ view.programme.summary }}</p>
        <details v-if="view.programme.notes.length" class="small attention">
          <summary>
            {{ view.programme.notes.length === 1 ? '1 thing was' : `${view.programme.notes.length} things were` }}
            assumed or left out
          </summary>
          <ul>
            <li v-for="n in view.programme.notes" :key="n">{{ n }}</li>
          </ul>
        </details>
        <AnswerStrip :answer="view.answer" :unanswered="view.unanswered" />
        <PlanSheet
          v-if="meta && drawn > 1"
          v-model="chosen"
          v-model:all="all"
          :programme="view.programme"
          :slots="meta.slots"
          :rules="view.rules"
          :athlete-id="props.id"
          :programme-id="view.id"
          :editable="editable"
          :error="typedError"
          @whole="whole = true"
          @add="adding = $event"
          @remove="remove"
          @focus="focus"
          @edit="change"
          @copy="copyOf"
          @paste="pasteAt({ item: $event })"
        />
        <p v-if="editable && whole" class="small">
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
    <ReasonRail :title="railTitle" :about="chosen">
      <SeveralPanel
        v-if="several.length && view && editable"
        :ids="several"
        :locked="several.every((id) => itemsOf(view?.programme).find((i) => i.id === id)?.locked)"
        :error="typedError"
        :clip="pasting"
        @edit="change"
        @copy="copyOf(several)"
        @remove="removeAll(several)"
        @close="all = []"
      />
      <ItemPanel
        v-else-if="item && view"
        :key="item.id"
        :item="item"
        :programme-id="view.id"
        :programme="view.programme"
        :rules="brokenAt(item.id)"
        :editable="editable"
        :load-step-kg="view.loadStepKg"
        :busy="edit.isPending.value"
        :clip="pastes('items')"
        @edit="edit.mutate"
        @close="chosen = ''"
        @copy="copyOf([item.id])"
        @paste="pasteAt({ item: item.id })"
        @replace="replacing = true"
      />
      <PartPanel
        v-else-if="(session || week) && view"
        :session="session"
        :week="session ? undefined : week"
        :programme="view.programme"
        :rules="brokenAt(chosen)"
        :editable="editable"
        :clip="session ? pastes('items') : pastes('week')"
        @edit="edit.mutate"
        @close="chosen = ''"
        @copy="copyPart"
        :session-clip="pastes('session')"
        @paste="pasteAt(session ? { session: chosen } : { week: chosen })"
        @paste-on="pasteAt({ date: $event })"
      />
      <RuleList
        v-else-if="view"
        :rules="view.rules"
        :editable="editable"
        :busy="edit.isPending.value"
        @go="focus"
        @mend="(rule, at) => edit.mutate({ kind: 'mend', rule, at })"
      />
    </ReasonRail>
    <LateDialog v-model="asking" max-width="760" scrollable>
      <form class="box" @submit.prevent="draftOver">
        <h2>Draft again?</h2>
        <p class="small">
          What is locked stays. Nothing has changed yet; this is what would. Undo, at the foot of the page, brings the
          old one back.
        </p>
        <DifferenceList :list="preview.data.value" :error="preview.error.value?.message" />
        <div class="row">
          <v-btn type="submit" variant="flat" color="action" :disabled="!preview.data.value" v-first
            >Draft it again</v-btn
          >
          <v-btn @click="asking = false">Leave it</v-btn>
        </div>
      </form>
    </LateDialog>
    <FirstDraftDialog v-model="lacking" :athlete-id="props.id" @draft="draftFirst" />
    <ClashDialog :clash="clash" @decide="decide" />
    <ReplaceDialog v-if="view" v-model="replacing" :view="view" :instead="item?.exercise ?? ''" @edit="change" />
    <VersionDialog
      v-if="view && list"
      v-model="comparing"
      :view="view"
      :list="list"
      :busy="withdraw.isPending.value"
      :error="withdraw.error.value?.message"
      @withdraw="withdraw.mutate($event, { onSuccess: () => (comparing = false) })"
    />
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
      :at="adding"
      :programme-id="view.id"
      :slots="meta.slots"
      :pieces="meta.pieces"
      @close="adding = ''"
      @edit="(edit.mutate($event), (adding = ''))"
    />
    <IssueDialog
      v-if="view"
      v-model="issuing"
      :athlete-id="props.id"
      :rules="view.rules"
      :error="issue.error.value?.message"
      :busy="issue.isPending.value"
      @issue="issue.mutate($event, { onSuccess: () => (issuing = false) })"
      @go="focus"
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
}
.summary {
  margin: 6px 0;
  max-width: 900px;
}
</style>
