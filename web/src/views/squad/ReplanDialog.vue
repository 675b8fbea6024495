<script setup lang="ts">
import { useEventSource } from '@vueuse/core'
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

/** Drafts open plans again: looks first, for all at once, then drafts the chosen ones; both can be stopped. */
const open = defineModel<boolean>({ required: true })
const client = useQueryClient()

interface Golfer {
  athleteId: string
  name: string
  changes: number
  first: string
  school: string
  start: string
  why?: string
}
interface Told {
  done: number
  of: number
  golfer?: Golfer
  ended?: boolean
  text?: string
}
const address = computed(() => (open.value ? '/api/v1/squad/drafts/live' : undefined))
const { data, close, status } = useEventSource(address, [])
const golfers = ref<Golfer[]>([])
const done = ref(0)
const of = ref(0)
const ended = ref(false)
const trouble = ref('')
const chosen = ref<string[]>([])
watch(open, (now) => {
  if (!now) return
  golfers.value = []
  chosen.value = []
  done.value = of.value = drafted.value = 0
  ended.value = false
  trouble.value = ''
})
watch(data, (text) => {
  if (!text || ended.value) return
  const told = JSON.parse(text) as Told
  done.value = told.done
  of.value = told.of
  if (told.golfer) {
    golfers.value.push(told.golfer)
    if (told.golfer.changes > 0) chosen.value.push(told.golfer.athleteId)
  }
  if (told.ended) {
    ended.value = true
    trouble.value = told.text ?? ''
    close()
  }
})
const sorted = computed(() => [...golfers.value].sort((a, b) => b.changes - a.changes || a.name.localeCompare(b.name)))
const same = computed(() => golfers.value.filter((g) => g.changes === 0 && !g.why).length)

const drafted = ref(0)
const drafting = ref(false)
async function draft() {
  drafting.value = true
  drafted.value = 0
  trouble.value = ''
  for (const g of golfers.value.filter((x) => chosen.value.includes(x.athleteId))) {
    if (!drafting.value) break
    try {
      await must(
        api.POST('/athletes/{athleteId}/programmes', {
          params: { path: { athleteId: g.athleteId } },
          body: { school: g.school, startDate: g.start } satisfies Schemas['DraftRequest'],
        }),
      )
      drafted.value++
      chosen.value = chosen.value.filter((id) => id !== g.athleteId)
      g.changes = 0
    } catch (e) {
      trouble.value = `${g.name}: ${e instanceof ApiError ? e.message : 'it could not be drafted'}`
      break
    }
  }
  drafting.value = false
  for (const k of [keys.squad(), keys.programmes(), keys.programme()]) void client.invalidateQueries({ queryKey: k })
}
function stop() {
  if (drafting.value) {
    drafting.value = false
    return
  }
  close()
  ended.value = true
}
</script>

<template>
  <v-dialog v-model="open" max-width="720" scrollable :persistent="drafting">
    <form class="box" @submit.prevent="draft">
      <h2>Draft open plans again</h2>
      <p class="small">
        What facts, rules and schools of today would change in the drafts there are. What is locked stays; issued
        versions are not touched; Undo on each programme brings its old draft back.
      </p>
      <template v-if="!ended || drafting">
        <v-progress-linear
          :model-value="drafting ? (100 * drafted) / Math.max(1, drafted + chosen.length) : of ? (100 * done) / of : 0"
          color="primary"
          :height="8"
          :aria-label="drafting ? 'Drafting' : 'Looking'"
        />
        <p class="small" role="status">
          {{ drafting ? `${drafted} drafted` : of ? `${done} of ${of} looked at` : 'Looking at the drafts …' }}
          <v-btn size="small" variant="outlined" @click="stop">Stop</v-btn>
        </p>
      </template>
      <p v-if="trouble || (status === 'CLOSED' && !ended)" class="stop" role="alert">
        {{ trouble || 'The connection was lost: open it again.' }}
      </p>
      <p v-if="ended && of === 0 && golfers.length === 0">No golfer has a draft.</p>
      <ul v-if="sorted.length" class="list">
        <li v-for="g in sorted.filter((x) => x.changes > 0 || x.why)" :key="g.athleteId">
          <label>
            <input v-model="chosen" type="checkbox" :value="g.athleteId" :disabled="!!g.why || g.changes === 0" />
            <strong>{{ g.name }}</strong>
          </label>
          <span class="small">{{ g.why ?? `${g.changes} ${g.changes === 1 ? 'change' : 'changes'}. ${g.first}` }}</span>
        </li>
      </ul>
      <p v-if="ended && same" class="small quiet">
        {{ same }} {{ same === 1 ? 'draft stays as it is' : 'drafts stay as they are' }}.
      </p>
      <div class="row">
        <v-btn
          type="submit"
          variant="flat"
          color="action"
          :disabled="!ended || drafting || chosen.length === 0"
          :loading="drafting"
          >Draft {{ chosen.length }} again</v-btn
        >
        <v-btn :disabled="drafting" @click="open = false">Close</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
  max-height: 46vh;
  overflow-y: auto;
}
.list li {
  display: grid;
  grid-template-columns: 190px 1fr;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid rgba(var(--v-theme-on-surface), 0.08);
}
@media (max-width: 600px) {
  .list li {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
