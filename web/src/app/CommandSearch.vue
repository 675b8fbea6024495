<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { type RouteLocationRaw, useRouter } from 'vue-router'

import { useGolfers } from '@/api/queries'
import { vFirst } from '@/keys/first'

import { asidePages, golferPages, topPages } from './pages'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golferId: string }>()
const emit = defineEmits<{ help: [] }>()

const router = useRouter()
const text = ref('')
const at = ref(0)
const looked = refDebounced(text, 120)
const { data: golfers, isFetching } = useGolfers(looked, 12)
/** Enter was pressed before the server had answered: what it finds is gone to. */
const hurry = ref(false)

interface Command {
  title: string
  go: () => void
}

/** Something to do, at the page where it is done. */
const actions: { title: string; to: RouteLocationRaw; golfer?: boolean }[] = [
  { title: 'Add a golfer', to: { name: 'squad', query: { add: '' } } },
  { title: 'Draft a programme', to: { name: 'programme', query: { draft: '' } }, golfer: true },
  { title: 'Plan a screen day', to: { name: 'plan-day' } },
  { title: 'Plan a class', to: { name: 'plan-class' } },
  { title: 'Warm-up for a group', to: { name: 'group-warmup' } },
  { title: 'Bring in a file', to: { name: 'files' } },
]
const here = (to: RouteLocationRaw) => ({ ...(to as object), params: { id: props.golferId } }) as RouteLocationRaw

const commands = computed<Command[]>(() => {
  const list: Command[] = []
  if (props.golferId)
    for (const p of [...golferPages, { name: 'load', title: 'Load' }])
      list.push({ title: `${p.title} of this golfer`, go: () => void router.push(here({ name: p.name })) })
  for (const p of [...topPages, ...asidePages])
    list.push({ title: p.title, go: () => void router.push({ name: p.name }) })
  for (const g of golfers.value ?? [])
    list.push({ title: g.name, go: () => void router.push({ name: 'read', params: { id: g.id } }) })
  for (const a of actions)
    if (!a.golfer || props.golferId)
      list.push({ title: a.title, go: () => void router.push(a.golfer ? here(a.to) : a.to) })
  list.push({ title: 'Help with this page', go: () => emit('help') })
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return list.filter((c) => words.every((w) => c.title.toLowerCase().includes(w))).slice(0, 12)
})

const waiting = computed(() => isFetching.value || looked.value !== text.value)
watch([commands, waiting], () => {
  if (hurry.value && (commands.value.length > 0 || !waiting.value)) run(commands.value[0])
})
watch([open, text], () => {
  hurry.value = false
  at.value = 0
  if (!open.value) text.value = ''
})

function run(command: Command | undefined) {
  hurry.value = !command && waiting.value
  if (!command) return
  open.value = false
  command.go()
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-label="Find a golfer, a page, something to do">
    <div class="find">
      <input
        v-model="text"
        v-first
        placeholder="A golfer, a page, something to do"
        aria-label="Find"
        @keydown.down.prevent="at = Math.min(at + 1, commands.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="run(commands[at])"
      />
      <ul>
        <li v-for="(c, i) in commands" :key="i" :class="{ on: i === at }">
          <button class="plain" @click="run(c)">{{ c.title }}</button>
        </li>
        <li v-if="commands.length === 0" class="quiet">Nothing is called that. Try part of a name.</li>
      </ul>
    </div>
  </v-dialog>
</template>

<style scoped>
.find {
  background: rgb(var(--v-theme-surface));
  padding: 12px;
}
input {
  width: 100%;
  font: inherit;
  font-size: 1.1rem;
  padding: 8px;
  color: inherit;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
li {
  padding: 6px 8px;
}
li.on {
  background: rgb(var(--v-theme-surface-variant));
}
li button {
  width: 100%;
}
</style>
