<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { addDays, longDay } from '@/parts/days'
import { ruleName } from '@/parts/rules'

/** What can be done with a session or a week that is chosen: the click way of every drag, and the rest. */
const props = defineProps<{
  session: Schemas['PlannedSession'] | undefined
  week: Schemas['Week'] | undefined
  programme: Schemas['Programme']
  rules: Schemas['RuleResult'][]
  editable: boolean
  /** What was copied and can be put into it. */
  clip: string
  /** A session that was copied: a week takes it on a free day. */
  sessionClip: string
}>()
const emit = defineEmits<{
  edit: [edit: Schemas['Edit']]
  copy: []
  paste: []
  pasteOn: [date: string]
  close: []
}>()

const weeks = computed(() => props.programme.blocks.flatMap((b) => b.weeks))
const at = computed(() => props.session?.id ?? props.week?.id ?? '')
const what = computed(() => (props.session ? 'session' : 'week'))
const of = computed(() => props.session ?? props.week)
const note = ref('')
watch(of, (now) => (note.value = now?.note ?? ''), { immediate: true })

/** The days of the programme, with what stands on each. */
const days = computed(() =>
  weeks.value.flatMap((w) =>
    Array.from({ length: 7 }, (_, d) => {
      const date = addDays(w.start, d)
      const there = w.sessions.find((s) => s.date === date)
      return { date, there, text: `${longDay(date)}${there ? `: day ${there.letter}` : ''}` }
    }),
  ),
)
const free = computed(() => days.value.filter((d) => !d.there))
const freeHere = computed(() =>
  free.value.filter((d) => props.week && d.date >= props.week.start && d.date <= addDays(props.week.start, 6)),
)
const to = ref('')
const extra = ref('')
watch(at, () => {
  to.value = ''
  extra.value = ''
})
const move = () => to.value && emit('edit', { kind: 'move', at: at.value, date: to.value })
const more = (empty: boolean) => extra.value && emit('edit', { kind: 'extra', at: at.value, date: extra.value, empty })
</script>

<template>
  <p class="small quiet row spread">
    <span>{{ props.session ? props.session.title : `From ${longDay(props.week?.start ?? '')}` }}</span><button
      class="plain"
      @click="emit('close')"
    >
      Show the rules
    </button>
  </p>
  <p
    v-for="r in props.rules"
    :key="r.rule + r.text"
    class="small"
    :class="r.severity === 'blocking' ? 'stop' : 'attention'"
  >
    <strong>{{ ruleName(r.rule) }}</strong> {{ r.text }} <em>{{ r.fix }}</em>
  </p>
  <p v-if="of?.note && !props.editable" class="small">Note: {{ of.note }}</p>
  <template v-if="props.editable">
    <div class="actions">
      <v-btn size="small" variant="outlined" @click="emit('edit', { kind: 'lock', at, on: !of?.locked })">{{
        of?.locked ? `Unlock this ${what}` : `Lock this ${what}`
      }}</v-btn>
      <v-btn size="small" variant="outlined" @click="emit('copy')">Copy</v-btn>
      <v-btn v-if="props.clip" size="small" variant="outlined" :title="props.clip" @click="emit('paste')"
        >Paste {{ props.clip }}</v-btn
      >
      <v-btn v-if="props.week" size="small" variant="outlined" @click="emit('edit', { kind: 'repeat', at })"
        >Repeat this week</v-btn
      >
      <v-btn size="small" variant="outlined" @click="emit('edit', { kind: 'remove', at })">Remove</v-btn>
    </div>
    <form v-if="props.session" class="line" @submit.prevent="move">
      <label :for="`to-${at}`">Move to</label>
      <select :id="`to-${at}`" v-model="to">
        <option value="">choose a day</option>
        <option v-for="d in days" :key="d.date" :value="d.date" :disabled="d.date === props.session.date">
          {{ d.text }}{{ d.there && d.date !== props.session.date ? ', they change places' : '' }}
        </option>
      </select>
      <v-btn type="submit" size="small" variant="outlined" :disabled="!to">Move</v-btn>
    </form>
    <form v-if="props.session" class="line" @submit.prevent="more(false)">
      <label :for="`extra-${at}`">One more like it on</label>
      <select :id="`extra-${at}`" v-model="extra">
        <option value="">choose a free day</option>
        <option v-for="d in free" :key="d.date" :value="d.date">{{ d.text }}</option>
      </select>
      <v-btn type="submit" size="small" variant="outlined" :disabled="!extra">Add</v-btn>
      <v-btn size="small" variant="outlined" :disabled="!extra" @click="more(true)">Add it empty</v-btn>
    </form>
    <form v-if="props.week && props.sessionClip" class="line" @submit.prevent="extra && emit('pasteOn', extra)">
      <label :for="`on-${at}`">Paste {{ props.sessionClip }} on</label>
      <select :id="`on-${at}`" v-model="extra">
        <option value="">choose a free day</option>
        <option v-for="d in freeHere" :key="d.date" :value="d.date">{{ d.text }}</option>
      </select>
      <v-btn type="submit" size="small" variant="outlined" :disabled="!extra">Paste</v-btn>
    </form>
    <form class="line" @submit.prevent="emit('edit', { kind: 'note', at, note })">
      <label :for="`note-${at}`">Note</label>
      <textarea
        :id="`note-${at}`"
        v-model="note"
        rows="2"
        maxlength="500"
        @blur="note.trim() !== (of?.note ?? '') && emit('edit', { kind: 'note', at, note })"
      ></textarea>
    </form>
  </template>
</template>

<style scoped>
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 8px 0 12px;
}
.line {
  display: grid;
  gap: 4px;
  margin: 10px 0;
  font-size: 0.88rem;
  justify-items: start;
}
select,
textarea {
  font: inherit;
  color: inherit;
  width: 100%;
  padding: 4px 6px;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
}
</style>
