<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'

import { type Item, type Phase, phases } from './useWarmUp'
import SelectField from '@/parts/SelectField.vue'

/** The items in their phases: dragged, moved by keys, swapped, their dose changed, taken out. */
const props = defineProps<{
  items: Item[]
  at: string
  alternatives: (phase: Phase) => Promise<Item[]>
  broken: Set<string>
  /** Looked at only: nothing is moved or changed. */
}>()
const emit = defineEmits<{
  choose: [id: string]
  move: [id: string, to: number]
  remove: [id: string]
  swap: [id: string, by: Item]
  add: [item: Item]
  change: [id: string, what: Partial<Item>]
}>()

const groups = computed(() => {
  const out: { phase: Phase; title: string; items: { item: Item; index: number }[]; key: string }[] = []
  props.items.forEach((item, index) => {
    const title = item.wait ? 'While you wait' : (phases.find(([p]) => p === item.phase)?.[1] ?? item.phase)
    const last = out.at(-1)
    if (last?.title === title) last.items.push({ item, index })
    else out.push({ phase: item.phase, title, items: [{ item, index }], key: item.id })
  })
  return out
})
const seconds = (list: { item: Item }[]) => list.reduce((s, x) => s + x.item.seconds, 0)

const dragged = ref('')
const open = ref('')
const others = ref<Item[]>([])
async function show(it: Item) {
  open.value = open.value === it.id ? '' : it.id
  emit('choose', it.id)
  others.value = []
  if (open.value && it.swings === 0) others.value = await props.alternatives(it.phase)
}
const adding = ref<Phase | ''>('')
async function more(phase: Phase) {
  adding.value = adding.value === phase ? '' : phase
  others.value = []
  if (adding.value) others.value = await props.alternatives(phase)
}
async function key(e: KeyboardEvent, it: Item, index: number) {
  if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
    e.preventDefault()
    emit('move', it.id, index + (e.key === 'ArrowUp' ? -1 : 1))
    await nextTick()
  } else if (e.key === 'Delete') {
    e.preventDefault()
    emit('remove', it.id)
  }
}
/** A dose this short stands beside the name, a longer one below it. */
const SHORT = 16
const intents = [50, 70, 85, 100]
</script>

<template>
  <div class="list">
    <section v-for="g in groups" :key="g.key">
      <div class="row spread head">
        <h2>
          {{ g.title }} <span class="quiet small num">{{ seconds(g.items) }} s</span>
        </h2>
        <button
          v-if="g.phase !== 'ladder' && !g.items[0]?.item.wait"
          class="plain link small no-print"
          :aria-expanded="adding === g.phase"
          @click="more(g.phase)"
        >
          Add
        </button>
      </div>
      <ul v-if="adding === g.phase" class="others no-print">
        <li v-for="o in others" :key="o.id">
          <button class="plain link" @click="(emit('add', o), (adding = ''))">{{ o.name }}</button>
        </li>
        <li v-if="!others.length" class="quiet">Nothing else may be done here.</li>
      </ul>
      <ol>
        <li
          v-for="{ item, index } in g.items"
          :key="item.id"
          :class="[
            'item',
            { at: item.id === props.at, bad: props.broken.has(item.id), over: dragged && dragged !== item.id },
          ]"
          draggable="true"
          @dragstart="dragged = item.id"
          @dragend="dragged = ''"
          @dragover.prevent
          @drop.prevent="(emit('move', dragged, index), (dragged = ''))"
        >
          <button
            class="plain line"
            :aria-expanded="open === item.id"
            @click="show(item)"
            @keydown="key($event, item, index)"
          >
            <span class="name"
              >{{ item.name }}<span v-if="item.for" class="for quiet">one more for {{ item.for }}</span></span
            >
            <span :class="['dose', 'quiet', { below: (item.dose ?? '').length > SHORT }]">{{ item.dose }}</span>
            <span class="num secs">{{ item.seconds }} s</span>
          </button>
          <div v-if="open === item.id" class="panel no-print">
            <p v-if="item.cue" class="small">{{ item.cue }}</p>
            <div class="row">
              <template v-if="item.swings > 0">
                <v-text-field
                  class="n"
                  :model-value="item.swings"
                  label="Swings"
                  type="number"
                  min="1"
                  max="30"
                  hide-details
                  @change="
                    (e: Event) =>
                      emit('change', item.id, {
                        swings: Math.max(1, Number((e.target as HTMLInputElement).value) || 1),
                      })
                  "
                />
                <SelectField
                  v-if="item.intentPercent"
                  class="n"
                  :model-value="item.intentPercent"
                  :items="intents"
                  label="Intent, %"
                  @update:model-value="(v: number) => emit('change', item.id, { intentPercent: v })"
                />
              </template>
              <template v-else>
                <v-text-field
                  class="n"
                  :model-value="item.seconds"
                  label="Seconds"
                  type="number"
                  min="5"
                  step="5"
                  hide-details
                  @change="
                    (e: Event) =>
                      emit('change', item.id, {
                        seconds: Math.max(5, Number((e.target as HTMLInputElement).value) || 5),
                      })
                  "
                />
                <v-text-field
                  v-if="item.repetitions"
                  class="n"
                  :model-value="item.repetitions"
                  label="Times"
                  type="number"
                  min="1"
                  hide-details
                  @change="
                    (e: Event) =>
                      emit('change', item.id, {
                        repetitions: Math.max(1, Number((e.target as HTMLInputElement).value) || 1),
                      })
                  "
                />
                <v-text-field
                  v-if="item.holdSeconds"
                  class="n"
                  :model-value="item.holdSeconds"
                  label="Hold, s"
                  type="number"
                  min="5"
                  hide-details
                  @change="
                    (e: Event) =>
                      emit('change', item.id, {
                        holdSeconds: Math.max(1, Number((e.target as HTMLInputElement).value) || 1),
                      })
                  "
                />
              </template>
              <v-btn size="small" aria-label="Earlier" @click="emit('move', item.id, index - 1)">↑</v-btn>
              <v-btn size="small" aria-label="Later" @click="emit('move', item.id, index + 1)">↓</v-btn>
              <v-btn size="small" @click="emit('remove', item.id)">Take out</v-btn>
            </div>
            <ul v-if="others.length" class="others">
              <li class="small quiet">Instead:</li>
              <li v-for="o in others" :key="o.id">
                <button class="plain link" @click="(emit('swap', item.id, o), (open = ''))">{{ o.name }}</button>
              </li>
            </ul>
          </div>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.list {
  columns: 2;
  column-gap: 32px;
}
section {
  break-inside: avoid;
  margin-bottom: 14px;
}
.head {
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 48px;
  gap: 2px 12px;
  width: 100%;
  padding: 5px 4px;
  align-items: baseline;
}
.for {
  display: block;
  font-size: var(--small);
}
.dose {
  font-size: var(--small);
  text-align: right;
}
.dose.below {
  grid-row: 2;
  grid-column: 1 / 3;
  text-align: left;
}
.secs {
  text-align: right;
}
.item {
  cursor: grab;
}
.item.at {
  background: rgba(var(--v-theme-action), 0.1);
}
.item.bad .name {
  color: rgb(var(--v-theme-error));
}
.panel {
  padding: 4px 4px 10px;
}
.n {
  max-width: 110px;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding: 6px 4px;
}
.link {
  text-decoration: underline;
  min-height: 28px;
}
@media (max-width: 1100px) {
  .list {
    columns: 1;
  }
}
@media (pointer: coarse) {
  .line,
  .link {
    min-height: 44px;
  }
}
@media print {
  .list {
    columns: 2;
  }
}
</style>
