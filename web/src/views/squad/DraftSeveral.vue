<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, ApiError, must } from '@/api/client'
import { keys } from '@/api/keys'
import { count } from '@/parts/words'

import type { SquadRow } from './rows'

/** Drafts a programme for each golfer that is chosen, one after the other; it can be stopped. Drafts there are stay. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golfers: SquadRow[] }>()
const client = useQueryClient()

const hasDraft = (g: SquadRow) => g.lane.blocks.some((b) => b.status === 'draft')
const todo = computed(() => props.golfers.filter((g) => !hasDraft(g)))
const running = ref(false)
const drafted = ref<string[]>([])
const refused = ref<{ id: string; name: string; why: string }[]>([])
const left = ref(0)
watch(open, (now) => {
  if (!now) return
  drafted.value = []
  refused.value = []
  left.value = 0
})

async function draft() {
  running.value = true
  const list = [...todo.value]
  left.value = list.length
  refused.value = []
  for (const g of list) {
    if (!running.value) break
    try {
      await must(api.POST('/athletes/{athleteId}/programmes', { params: { path: { athleteId: g.id } }, body: {} }))
      drafted.value.push(g.id)
    } catch (e) {
      refused.value.push({ id: g.id, name: g.name, why: e instanceof ApiError ? e.message : 'it could not be drafted' })
    }
    left.value--
  }
  running.value = false
  for (const k of [keys.squad(), keys.programmes()]) void client.invalidateQueries({ queryKey: k })
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" scrollable :persistent="running">
    <form class="box" @submit.prevent="draft">
      <h2>Draft for {{ count(props.golfers.length, 'golfer') }}</h2>
      <p class="small">
        Each by their own school, from the day their season says. Nothing is issued.
        <template v-if="todo.length < props.golfers.length">
          {{ count(props.golfers.length - todo.length, 'golfer has', 'golfers have') }} a draft: it stays as it is.
        </template>
      </p>
      <v-progress-linear
        v-if="running"
        :model-value="(100 * (drafted.length + refused.length)) / Math.max(1, drafted.length + refused.length + left)"
        color="primary"
        :height="8"
        aria-label="Drafting"
      />
      <p v-if="drafted.length" role="status">{{ count(drafted.length, 'draft') }} made.</p>
      <ul v-if="refused.length" class="refused">
        <li v-for="r in refused" :key="r.id">
          <router-link :to="{ name: 'intake', params: { id: r.id } }">{{ r.name }}</router-link>:
          <span class="stop">{{ r.why }}</span>
        </li>
      </ul>
      <div class="row">
        <v-btn v-if="running" variant="outlined" @click="running = false">Stop</v-btn>
        <v-btn v-else-if="!drafted.length" type="submit" variant="flat" color="action" :disabled="todo.length === 0"
          >Draft {{ todo.length }}</v-btn
        >
        <v-btn :disabled="running" @click="open = false">Close</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.refused {
  padding-left: 18px;
}
</style>
