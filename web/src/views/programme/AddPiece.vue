<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'

/** A small session laid into one: what it is made of, and its numbers. */
const props = defineProps<{ at: string; pieces: Schemas['PieceKit'][] }>()
const emit = defineEmits<{ close: []; edit: [edit: Schemas['Edit']] }>()

type Piece = Schemas['Piece']
type Numbers = { [K in keyof Piece]-?: Piece[K] extends number | undefined ? K : never }[keyof Piece]

const kind = ref<Piece['kind']>(props.pieces[0]?.kind ?? 'speed')
const kit = computed(() => props.pieces.find((k) => k.kind === kind.value))
const piece = ref<Piece>({ kind: kind.value, exercises: [], sets: 1, restSeconds: 60 })
const scope = ref<'cell' | 'line'>('line')
const note = ref('')
watch(
  kit,
  (k) => {
    if (!k) return
    const { exercises, clubs, ...numbers } = k.usual
    piece.value = { ...numbers, exercises: [...exercises], ...(clubs ? { clubs: [...clubs] } : {}) }
  },
  { immediate: true },
)

/** The clubs that are offered, in % of the driver's mass. */
const clubs = [-35, -20, -10, 0, 10, 20]
const clubWords = (percent: number) =>
  percent === 0 ? 'own driver' : `${Math.abs(percent)}% ${percent < 0 ? 'lighter' : 'heavier'}`

const fields = computed(() => {
  const out: { key: Numbers; label: string }[] = [{ key: 'sets', label: kind.value === 'drill' ? 'Rounds' : 'Sets' }]
  if (kind.value === 'speed' || kind.value === 'drill')
    out.push(
      { key: 'reps', label: kind.value === 'drill' ? 'Swings a round' : 'Swings a set' },
      { key: 'intentPercent', label: 'Intent, %' },
      { key: 'otherSideShare', label: 'Other side, %' },
      { key: 'betweenSeconds', label: 'Between swings, s' },
      { key: 'balanceSeconds', label: 'Balance held, s' },
    )
  if (kind.value === 'grip')
    out.push(
      { key: 'times', label: 'Squeezes' },
      { key: 'seconds', label: 'Each held, s' },
      { key: 'betweenSeconds', label: 'Between, s' },
      { key: 'reps', label: 'Pulses, swings' },
    )
  if (kind.value === 'lever') out.push({ key: 'reps', label: 'A side' })
  out.push({ key: 'restSeconds', label: 'Rest after a set, s' })
  return out
})

/** What is made of has an order: that of the choice. */
function toggle(id: string) {
  const list = piece.value.exercises
  if (kind.value === 'speed') piece.value.exercises = [id]
  else piece.value.exercises = list.includes(id) ? list.filter((x) => x !== id) : [...list, id]
}
const place = (id: string) => piece.value.exercises.indexOf(id) + 1
const total = computed(() => {
  const p = piece.value
  if (kind.value === 'speed') return `${p.sets * (p.reps ?? 0) * (p.clubs?.length ?? 0)} swings`
  if (kind.value === 'drill') return `${p.sets * (p.reps ?? 0) * p.exercises.length} swings`
  return ''
})
const ready = computed(
  () => piece.value.exercises.length > 0 && (kind.value !== 'speed' || !!piece.value.clubs?.length),
)
</script>

<template>
  <form class="piece" @submit.prevent="emit('edit', { kind: 'piece', at: props.at, scope, piece, note })">
    <div class="row" role="radiogroup" aria-label="Kind">
      <label v-for="k in props.pieces" :key="k.kind" class="tap"
        ><input v-model="kind" type="radio" name="piece-kind" :value="k.kind" /> {{ k.name }}</label
      >
    </div>
    <p v-if="kit" class="small quiet">{{ kit.text }}</p>
    <fieldset v-if="kit">
      <legend class="small">{{ kind === 'speed' ? 'Swung from' : 'Made of, in this order' }}</legend>
      <label v-for="x in kit.exercises" :key="x.id" class="tap">
        <input :type="kind === 'speed' ? 'radio' : 'checkbox'" :checked="place(x.id) > 0" @change="toggle(x.id)" />
        <span v-if="kind !== 'speed' && place(x.id)" class="num order">{{ place(x.id) }}</span> {{ x.name }}
      </label>
    </fieldset>
    <fieldset v-if="kind === 'speed' && piece.clubs">
      <legend class="small">Clubs, in this order</legend>
      <p class="row">
        <button
          v-for="(c, i) in piece.clubs"
          :key="i"
          type="button"
          class="chip"
          :title="`Take out: ${clubWords(c)}`"
          @click="piece.clubs.splice(i, 1)"
        >
          {{ i + 1 }}. {{ clubWords(c) }} ×
        </button>
      </p>
      <p class="row">
        <button
          v-for="c in clubs"
          :key="c"
          type="button"
          class="chip add"
          :disabled="piece.clubs.length >= 6"
          @click="piece.clubs.push(c)"
        >
          + {{ clubWords(c) }}
        </button>
      </p>
    </fieldset>
    <div class="numbers">
      <label v-for="f in fields" :key="f.key" class="small"
        >{{ f.label }}<input v-model.number="piece[f.key]" type="number" inputmode="numeric" min="0"
      /></label>
    </div>
    <label v-if="kind === 'grip'" class="small"
      ><input v-model="piece.inTurn" type="checkbox" /> hands in turn, after each squeeze</label
    >
    <p v-if="total" class="small quiet">{{ total }} in all.</p>
    <v-text-field v-model="note" label="Reason, needed where a limit holds it back" hide-details density="compact" />
    <label class="small"
      ><input v-model="scope" type="checkbox" true-value="line" false-value="cell" /> from this week on</label
    >
    <div class="row">
      <v-btn type="submit" variant="flat" color="action" :disabled="!ready">Add</v-btn>
      <v-btn @click="emit('close')">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.piece {
  display: grid;
  gap: 8px;
  margin-top: 8px;
}
.piece p {
  margin: 0;
}
fieldset {
  border: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 2px 10px;
}
fieldset p {
  grid-column: 1 / -1;
}
.tap {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 30px;
}
.order {
  min-width: 1.2em;
  font-weight: 650;
}
.numbers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 8px;
}
.numbers label {
  display: grid;
}
.numbers input {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
  min-height: 34px;
  width: 100%;
  min-width: 0;
}
.chip {
  font: inherit;
  font-size: 0.88rem;
  color: inherit;
  min-height: 32px;
  padding: 2px 8px;
  background: rgb(var(--v-theme-surface-variant));
  border: 1px solid rgb(var(--v-theme-line));
  cursor: pointer;
}
.chip.add {
  background: transparent;
}
</style>
