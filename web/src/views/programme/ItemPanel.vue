<script setup lang="ts">
import TermNote from '@/help/TermNote.vue'
import { useQuery } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { ruleName } from '@/parts/rules'

import ItemActions from './ItemActions.vue'

const props = defineProps<{
  item: Schemas['Item']
  programmeId: string
  rules: Schemas['RuleResult'][]
  editable: boolean
  loadStepKg: number
  busy: boolean
  programme: Schemas['Programme']
  clip: string
}>()
const emit = defineEmits<{ edit: [edit: Schemas['Edit']]; close: []; copy: []; paste: []; replace: [] }>()

type Patch = NonNullable<Schemas['Edit']['dose']>
type Key = Exclude<keyof Patch & keyof Schemas['Dose'], 'inTurn'>

const scope = ref<'cell' | 'line'>('line')
const note = ref('')
const home = computed(() => props.item.place.includes('.h'))

/** The parts of the dose that can be changed here, with their step. */
const fields = computed(() => {
  const d = props.item.dose
  const out: { key: Key; label: string; step: number }[] = [{ key: 'sets', label: 'Sets', step: 1 }]
  if (d.unit === 'seconds') {
    out.push({ key: 'seconds', label: d.times ? 'Seconds held' : 'Seconds', step: 5 })
    if (d.times) out.push({ key: 'times', label: 'Holds a set', step: 1 })
  } else out.push({ key: 'reps', label: d.unit === 'swings' ? 'Swings a set' : 'Repetitions', step: 1 })
  if (d.reserve !== undefined)
    out.push(
      { key: 'loadKg', label: 'Load, kg', step: props.loadStepKg },
      { key: 'reserve', label: 'In reserve', step: 1 },
    )
  if (d.ballKg) out.push({ key: 'ballKg', label: 'Ball, kg', step: 1 })
  if (d.unit === 'swings') {
    out.push(
      { key: 'intentPercent', label: 'Intent, %', step: 5 },
      { key: 'otherSideShare', label: 'Other side, %', step: 10 },
      { key: 'implementPercent', label: 'Club, % of driver', step: 5 },
    )
  }
  if (d.unit === 'swings') out.push({ key: 'balanceSeconds', label: 'Balance held, s', step: 1 })
  if (d.unit === 'swings' || d.times) out.push({ key: 'betweenSeconds', label: 'Between, s', step: 1 })
  if (d.leverNm)
    out.push({ key: 'chokeCm', label: 'Choked down, cm', step: 2 }, { key: 'clubs', label: 'Clubs held', step: 1 })
  out.push({ key: 'restSeconds', label: 'Rest, s', step: 15 })
  return out
})
const dose = reactive<Record<string, number | undefined>>(
  Object.fromEntries(fields.value.map((f) => [f.key, props.item.dose[f.key] as number | undefined])),
)
const changed = computed(() =>
  fields.value.filter((f) => typeof dose[f.key] === 'number' && dose[f.key] !== props.item.dose[f.key]),
)
// What others change meanwhile comes in where nothing is being typed.
watch(
  () => props.item.dose,
  (now, before) => {
    for (const f of fields.value) if (dose[f.key] === before[f.key]) dose[f.key] = now[f.key] as number | undefined
  },
)
/** What was sent last, so that leaving does not send it again. */
let sent = ''
let gone = false
const typedNow = () => JSON.stringify(changed.value.map((f) => [f.key, dose[f.key]]))
// A click elsewhere takes what was typed.
onBeforeUnmount(() => {
  if (props.editable && !gone && !props.item.locked && changed.value.length > 0 && typedNow() !== sent) save()
})

function remove() {
  gone = true
  emit('edit', { kind: 'remove', at: props.item.id, scope: scope.value })
}
function bump(key: Key, by: number) {
  dose[key] = (dose[key] ?? 0) + by
}
function save() {
  if (changed.value.length === 0) return
  sent = typedNow()
  const patch: Patch = Object.fromEntries(changed.value.map((f) => [f.key, dose[f.key]]))
  emit('edit', {
    kind: 'dose',
    at: props.item.id,
    scope: scope.value,
    dose: patch,
    ...(note.value ? { note: note.value } : {}),
  })
}

const { data: alternatives } = useQuery({
  queryKey: keys.alternatives(props.programmeId, props.item.id, props.item.exercise),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/alternatives', {
        params: { path: { programmeId: props.programmeId }, query: { at: props.item.id } },
      }),
    ),
  enabled: props.editable,
})
const open = computed(() => alternatives.value?.filter((a) => !a.current && !a.blocked).slice(0, 6) ?? [])
const held = computed(() => alternatives.value?.filter((a) => a.blocked) ?? [])
function swap(a: Schemas['Alternative']) {
  gone = true
  emit('edit', {
    kind: 'swap',
    at: props.item.id,
    scope: scope.value,
    exercise: a.exercise,
    ...(note.value ? { note: note.value } : {}),
  })
}
const why = (a: Schemas['Alternative']) =>
  a.parts.map((p) => `${p.label} ${p.points > 0 ? '+' : ''}${p.points}`).join(', ')
</script>

<template>
  <p class="small quiet row spread">
    <span
      ><TermNote term="zones">{{ props.item.zone }}</TermNote> · {{ props.item.minutes }} min<template
        v-if="props.item.dose.reserve !== undefined"
      >
        · <TermNote term="reserve">in reserve</TermNote> {{ props.item.dose.reserve }}</template
      ></span
    ><button class="plain" @click="emit('close')">Show the rules</button>
  </p>
  <p class="small" data-testid="reason">{{ props.item.reason.text }}</p>
  <p class="small quiet">{{ props.item.reason.rule }}. Source: {{ props.item.reason.source }}.</p>
  <p v-if="props.item.note" class="small">Why: {{ props.item.note }}</p>
  <p
    v-for="r in props.rules"
    :key="r.rule + r.text"
    class="small"
    :class="r.severity === 'blocking' ? 'stop' : 'attention'"
  >
    <strong>{{ ruleName(r.rule) }}</strong> {{ r.text }} <em>{{ r.fix }}</em>
  </p>
  <p v-if="props.editable && props.item.locked" class="small attention">
    Locked: it stays as it is.
    <button class="plain link" @click="emit('edit', { kind: 'lock', at: props.item.id, on: false })">Unlock it</button>
  </p>
  <template v-else-if="props.editable">
    <form class="dose" @submit.prevent="save">
      <h3>Dose</h3>
      <div v-for="f in fields" :key="f.key" class="step">
        <label :for="f.key">{{ f.label }}</label>
        <button type="button" :aria-label="`Less: ${f.label}`" @click="bump(f.key, -f.step)">−</button>
        <input :id="f.key" v-model.number="dose[f.key]" type="number" step="any" />
        <button type="button" :aria-label="`More: ${f.label}`" @click="bump(f.key, f.step)">+</button>
      </div>
      <label v-if="!home" class="small"
        ><input v-model="scope" type="checkbox" true-value="line" false-value="cell" /> from this week on</label
      >
      <input
        v-model="note"
        class="note"
        placeholder="Reason (needed where a limit holds it back)"
        aria-label="Reason"
      />
      <div class="row">
        <v-btn
          type="submit"
          size="small"
          variant="flat"
          color="action"
          :disabled="changed.length === 0"
          :loading="props.busy"
          >Change the dose</v-btn
        >
        <v-btn size="small" @click="remove">Remove</v-btn>
      </div>
    </form>
    <ItemActions
      :item="props.item"
      :programme="props.programme"
      :clip="props.clip"
      @edit="emit('edit', $event)"
      @copy="emit('copy')"
      @paste="emit('paste')"
      @replace="emit('replace')"
    />
    <h3>Instead</h3>
    <ul class="alts small">
      <li v-for="a in open" :key="a.exercise">
        <button class="plain link" :title="why(a)" @click="swap(a)">{{ a.name }}</button>
        <span class="num quiet">{{ a.score.toFixed(2) }}</span>
      </li>
      <li v-if="alternatives && open.length === 0" class="quiet">
        Nothing else fits the limits, the kit and the level.
      </li>
    </ul>
    <details v-if="held.length" class="small">
      <summary>{{ held.length }} held back</summary>
      <ul class="alts">
        <li v-for="a in held" :key="a.exercise">
          <button class="plain link" :title="why(a)" @click="swap(a)">{{ a.name }}</button>
          <span class="quiet">{{ a.rule }}: {{ a.blocked }}</span>
        </li>
      </ul>
    </details>
  </template>
</template>

<style scoped>
.dose {
  display: grid;
  gap: 4px;
  margin: 10px 0;
}
.step {
  display: grid;
  grid-template-columns: 1fr 28px 64px 28px;
  gap: 4px;
  align-items: center;
  font-size: 0.88rem;
}
.step input,
.note {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 3px 5px;
  text-align: right;
  width: 100%;
}
.note {
  text-align: left;
  font-size: var(--small);
}
.step button {
  font: inherit;
  color: inherit;
  height: 28px;
  background: rgb(var(--v-theme-surface-variant));
  border: 0;
  cursor: pointer;
}
.alts {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.alts li {
  padding: 2px 0;
}
.alts .quiet {
  margin-left: 8px;
}
.link {
  text-decoration: underline;
  color: rgb(var(--v-theme-action));
}
</style>
