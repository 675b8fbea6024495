<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'

import { toShown } from '@/parts/speed'

import { readTyped, type Typed } from './typed'
import type { Making } from './useSeries'
import type { Page, Swing } from './useSpeed'
import { InTurns } from '@/parts/InTurns'
import SelectField from '@/parts/SelectField.vue'

/** Where swings are typed or heard: the last number very large, what the next one is made with, and keys for both. */
const making = defineModel<Making>({ required: true })
const props = defineProps<{
  page: Page
  last: Swing | undefined
  unit: 'mph' | 'm/s'
  /** What the number means now: the state of the stop line, or of the radar. */
  state: string
  attention: boolean
  listening: boolean
  /** Nothing is chosen: a cold start is the own driver at full intent. */
  fixed: boolean
}>()
const emit = defineEmits<{ add: [swings: Typed[]]; void: []; listen: []; stop: [] }>()

const text = ref('')
const wrong = ref<string[]>([])
const box = ref<{ focus: () => void } | null>(null)
onMounted(() => void nextTick(() => box.value?.focus()))

const implementsThere = computed(() => [props.page.own, ...props.page.implements])
const implement = computed(() => implementsThere.value.find((i) => i.id === making.value.implement))
const drills = ['', 'step in', 'feet together', 'foot lift', 'overturned finish']
const percent = (p: number) => (Math.abs(p) < 2 ? 'own' : `${p > 0 ? '+' : '−'}${Math.abs(p).toFixed(0)}%`)

function enter() {
  const got = readTyped(text.value, props.unit)
  wrong.value = got.wrong
  if (got.swings.length) {
    emit('add', got.swings)
    if (got.wrong.length === 0) text.value = ''
  }
}
function paste(e: ClipboardEvent) {
  const got = readTyped(e.clipboardData?.getData('text') ?? '', props.unit)
  if (got.swings.length < 2 && got.wrong.length === 0) return
  e.preventDefault()
  wrong.value = got.wrong
  if (got.swings.length) emit('add', got.swings)
}
function set(what: Partial<Making>) {
  making.value = { ...making.value, ...what }
}
const commands: Record<string, () => void> = {
  i: () => {
    const all = implementsThere.value
    const at = all.findIndex((x) => x.id === making.value.implement)
    set({ implement: all[(at + 1) % all.length]?.id ?? making.value.implement })
  },
  s: () => set({ side: making.value.side === 'playing' ? 'other' : 'playing' }),
  f: () => set({ intent: 'full' }),
  c: () => set({ intent: 'cruise' }),
  e: () => set({ intent: 'easy' }),
  n: () => set({ set: making.value.set + 1 }),
  x: () => emit('void'),
}
function key(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return
  const run = commands[e.key.toLowerCase()]
  if (!run || (props.fixed && e.key.toLowerCase() !== 'x')) return
  e.preventDefault()
  run()
}
const shown = computed(() => (props.last ? toShown(props.last.clubMps, props.unit).toFixed(1) : '–'))
</script>

<template>
  <section class="entry" aria-label="Swings">
    <div class="now" aria-live="polite">
      <span :class="['number', 'num', { attention: props.attention }]" data-testid="last-swing">{{ shown }}</span>
      <span class="unit quiet">{{ props.unit }}</span>
      <p class="state" :class="{ attention: props.attention }" data-testid="swing-state">{{ props.state }}</p>
    </div>
    <div class="how">
      <div class="row">
        <v-text-field
          ref="box"
          v-model="text"
          class="typed"
          inputmode="decimal"
          autocomplete="off"
          :label="`Club speed (${props.unit})`"
          hint="Enter after each; several can be pasted"
          persistent-hint
          hide-spin-buttons
          data-testid="type-speed"
          @keydown.enter.prevent="enter"
          @keydown="key"
          @paste="paste"
        />
        <v-btn v-if="!props.listening" @click="emit('listen')">Listen to the radar</v-btn>
        <v-btn v-else @click="emit('stop')">Stop listening</v-btn>
        <v-btn :disabled="!props.last" @click="emit('void')">Void the last <kbd>x</kbd></v-btn>
      </div>
      <p v-if="wrong.length" class="stop small" role="alert">{{ wrong.join('; ') }}. Write one speed a line.</p>
      <div v-if="!props.fixed" class="row choices" role="group" aria-label="What the next swing is made with">
        <InTurns :place="40">
          <SelectField
            class="pick"
            :model-value="making.implement"
            :items="
              implementsThere.map((i) => ({
                value: i.id,
                title: `${i.name}, ${i.massG.toFixed(0)} g (${percent(i.percent)})`,
              }))
            "
            label="Implement (key i)"
            @update:model-value="(v: string) => set({ implement: v })"
          />
          <v-btn-toggle
            :model-value="making.side"
            mandatory
            density="compact"
            aria-label="Side (key s)"
            @update:model-value="(v: 'playing' | 'other') => set({ side: v })"
          >
            <v-btn value="playing" size="small">Own side</v-btn>
            <v-btn value="other" size="small">Other side</v-btn>
          </v-btn-toggle>
          <v-btn-toggle
            :model-value="making.intent"
            mandatory
            density="compact"
            aria-label="Intent (keys e, c, f)"
            @update:model-value="(v: Making['intent']) => set({ intent: v })"
          >
            <v-btn value="easy" size="small">Easy</v-btn>
            <v-btn value="cruise" size="small">Course</v-btn>
            <v-btn value="full" size="small">Full</v-btn>
          </v-btn-toggle>
          <SelectField
            class="drill"
            :model-value="making.drill"
            :items="drills.map((d) => ({ value: d, title: d || 'no drill' }))"
            label="Drill"
            @update:model-value="(v: string) => set({ drill: v })"
          />
          <v-btn size="small" @click="set({ set: making.set + 1 })">Set {{ making.set }}: next <kbd>n</kbd></v-btn>
        </InTurns>
      </div>
      <p v-if="implement && !implement.trains" class="small attention">
        {{ implement.name }} is outside of the range for fast swings of training (−20 to +20% of the own driver): that
        is {{ implement.percent > 0 ? 'strength work' : 'too light to train with' }}.
      </p>
    </div>
  </section>
</template>

<style scoped>
.entry {
  display: flex;
  gap: 28px;
  align-items: flex-start;
  flex-wrap: wrap;
}
.now {
  min-width: 260px;
  flex: none;
}
.number {
  font-size: 96px;
  line-height: 1;
  font-weight: 650;
}
.unit {
  font-size: 20px;
  margin-left: 8px;
}
.state {
  margin: 6px 0 0;
  font-size: 18px;
  min-height: 27px;
  max-width: 320px;
}
.how {
  flex: 1;
  min-width: min(420px, 100%);
  display: grid;
  gap: 10px;
}
.typed {
  max-width: 260px;
}
.typed :deep(input) {
  font-size: 22px;
}
.pick {
  max-width: 250px;
}
.drill {
  max-width: 150px;
}
kbd {
  font: inherit;
  margin-left: 6px;
  padding: 0 5px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 3px;
}
@media (max-width: 600px) {
  .number {
    font-size: 72px;
  }
  .pick,
  .drill,
  .typed {
    max-width: none;
    width: 100%;
    flex: 1 1 100%;
  }
}
@media (pointer: coarse) {
  kbd {
    display: none;
  }
}
</style>
