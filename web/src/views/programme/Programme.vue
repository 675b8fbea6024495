<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useAthlete, useMeta, useProgramme, useProgrammes } from '@/api/queries'
import { typing } from '@/keys/typing'
import AskFirst from '@/parts/AskFirst.vue'
import EmptyState from '@/parts/EmptyState.vue'
import ReasonRail from '@/parts/ReasonRail.vue'

import AddExercise from './AddExercise.vue'
import AnswerStrip from './AnswerStrip.vue'
import IssueDialog from './IssueDialog.vue'
import ItemPanel from './ItemPanel.vue'
import PlanSheet from './PlanSheet.vue'
import ProgrammeHead from './ProgrammeHead.vue'
import RuleList from './RuleList.vue'
import { useChosen } from './useChosen'
import { useDrafting } from './useDrafting'
import { useProgrammeEdits } from './useProgrammeEdits'

const props = defineProps<{ id: string; programmeId?: string }>()
const router = useRouter()
const { data: meta } = useMeta()
const { data: golfer } = useAthlete(props.id)
const { data: list, error: listError } = useProgrammes(props.id)
const { data: view, error } = useProgramme(() => props.programmeId ?? '')
const { edit, step, issue, trouble, since } = useProgrammeEdits(view, props.id)
const { draft, asking, draftAgain, draftOver, discarding, discard } = useDrafting(props.id, list, view)
const sheet = ref<HTMLElement>()
const { id: chosen, item, focus, neighbour } = useChosen(view, sheet)

const school = ref('')
const adding = ref('')
const issuing = ref(false)
const editable = computed(() => view.value?.status === 'draft')
const brokenAt = (id: string) => view.value?.rules.filter((r) => r.status === 'broken' && r.at === id) ?? []
/** Takes an item out; the hand goes on to its neighbour at once, so that the next key is meant for that. */
function remove(at: string) {
  const next = neighbour(at)
  edit.mutate({ kind: 'remove', at, scope: 'cell' })
  if (next) focus(next)
}
const show = (programmeId: string) => router.push({ name: 'programme', params: { id: props.id, programmeId } })

watch(golfer, (g) => (school.value ||= g?.school ?? ''), { immediate: true })
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
      />
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
          v-if="meta"
          v-model="chosen"
          :programme="view.programme"
          :slots="meta.slots"
          :rules="view.rules"
          :athlete-id="props.id"
          :programme-id="view.id"
          :editable="editable"
          @add="adding = $event"
          @remove="remove"
          @focus="focus"
        />
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
        :key="item.id + view.revision"
        :item="item"
        :programme-id="view.id"
        :rules="brokenAt(item.id)"
        :editable="editable"
        :load-step-kg="view.loadStepKg"
        :busy="edit.isPending.value"
        @edit="edit.mutate"
        @close="chosen = ''"
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
    <AskFirst v-model="asking" title="Draft over the draft that is open?" verb="Draft over it" @yes="draftOver">
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
}
.summary {
  margin: 6px 0;
  max-width: 900px;
}
</style>
