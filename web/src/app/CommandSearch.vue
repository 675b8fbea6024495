<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Schemas } from '@/api/client'
import { typing } from '@/keys/typing'

const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golfers: Schemas['SquadRow'][]; golferId: string }>()

const router = useRouter()
const text = ref('')
const at = ref(0)

interface Command {
  title: string
  go: () => void
}

const commands = computed<Command[]>(() => {
  const list: Command[] = [{ title: 'Squad', go: () => void router.push({ name: 'squad' }) }]
  if (props.golferId) {
    for (const [name, title] of [
      ['intake', 'Intake'],
      ['screen', 'Screen'],
      ['force', 'Force'],
      ['read', 'Read'],
      ['programme', 'Programme'],
    ] as const) {
      list.push({
        title: `${title} of this golfer`,
        go: () => void router.push({ name, params: { id: props.golferId } }),
      })
    }
  }
  for (const g of props.golfers) {
    list.push({ title: g.name, go: () => void router.push({ name: 'read', params: { id: g.id } }) })
  }
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return list.filter((c) => words.every((w) => c.title.toLowerCase().includes(w))).slice(0, 12)
})

watch([open, text], () => {
  at.value = 0
  if (!open.value) text.value = ''
})

function run(command: Command | undefined) {
  if (!command) return
  open.value = false
  command.go()
}

onKeyStroke('/', (event) => {
  if (typing(event)) return
  event.preventDefault()
  open.value = true
})
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-label="Find a golfer or a page">
    <div class="find">
      <input
        v-model="text"
        autofocus
        placeholder="A golfer or a page"
        aria-label="Find"
        @keydown.down.prevent="at = Math.min(at + 1, commands.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="run(commands[at])"
      />
      <ul>
        <li v-for="(c, i) in commands" :key="c.title" :class="{ on: i === at }">
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
