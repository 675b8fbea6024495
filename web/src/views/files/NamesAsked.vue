<script setup lang="ts">
import { ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { count } from '@/parts/words'

/**
 * Names in a file that are not ours: each is pointed at a golfer or a test once. What is likeliest is chosen already,
 * and nothing of it counts before it is taken.
 */
const props = defineProps<{
  asks: Schemas['UploadAsk'][]
  what: 'golfers' | 'tests'
  /** Everybody, or every test, beside what is near. */
  all: { id: string; name: string }[]
  /** New golfers may be made: the file says what they need. */
  mayAdd?: boolean
}>()
const emit = defineEmits<{ take: [said: Record<string, string>] }>()

const LEAVE = '-'
const NEW = 'new'
const said = ref<Record<string, string>>({})
watch(
  () => props.asks,
  (asks) => {
    const only = (a: Schemas['UploadAsk']) => (a.near.length === 1 ? (a.near[0]?.id ?? '') : '')
    said.value = Object.fromEntries(asks.map((a) => [a.written, only(a)]))
  },
  { immediate: true },
)
function items(a: Schemas['UploadAsk']) {
  const near = new Set(a.near.map((n) => n.id))
  return [
    ...a.near.map((n) => ({ title: n.name, value: n.id, props: { subtitle: n.note ?? 'near' } })),
    ...(props.mayAdd ? [{ title: 'a new golfer', value: NEW }] : []),
    { title: 'leave these rows out', value: LEAVE },
    ...props.all.filter((x) => !near.has(x.id)).map((x) => ({ title: x.name, value: x.id })),
  ]
}
const take = () => emit('take', Object.fromEntries(Object.entries(said.value).filter(([, id]) => id)))
</script>

<template>
  <section class="asked" :aria-label="`Which ${props.what} are meant`">
    <h3>{{ props.what === 'golfers' ? 'Who is meant?' : 'Which test is meant?' }}</h3>
    <p class="small quiet">
      {{
        props.what === 'golfers'
          ? 'Said once, it is kept with the golfer for the next file.'
          : 'Said once, it is kept with this source.'
      }}
    </p>
    <div v-for="a in props.asks" :key="a.written" class="ask">
      <span>
        <strong>{{ a.written }}</strong>
        <span class="small quiet rows">{{ count(a.rows, 'row') }}</span>
      </span>
      <v-autocomplete
        v-model="said[a.written]"
        :items="items(a)"
        :label="`${a.written} is`"
        density="compact"
        hide-details
      />
    </div>
    <v-btn variant="flat" color="action" @click="take">Take these and look again</v-btn>
  </section>
</template>

<style scoped>
.asked {
  margin: 12px 0;
  max-width: 720px;
}
.ask {
  display: grid;
  grid-template-columns: minmax(140px, 1fr) minmax(220px, 1.4fr);
  align-items: center;
  gap: 12px;
  padding: 3px 0;
}
.rows {
  margin-left: 8px;
}
.asked .v-btn {
  margin-top: 8px;
}
@media (max-width: 500px) {
  .ask {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
