<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useSquad } from '@/api/queries'
import { useAddress, useTypedAddress } from '@/parts/address'
import EmptyState from '@/parts/EmptyState.vue'
import Folded from '@/parts/Folded.vue'
import { lateDialog } from '@/parts/late'

import { board, groupsOf, type Sort, sorts } from './rows'
import SeveralBar from './SeveralBar.vue'
import SquadBoard from './SquadBoard.vue'
import { useSquadActions } from './useSquadActions'

const NewGolfer = lateDialog(() => import('./NewGolfer.vue'))
const ReplanDialog = lateDialog(() => import('./ReplanDialog.vue'))

// What is asked for stands in the address: it is still there on the way back.
const text = useTypedAddress('q')
const sort = useAddress('sort', 'due')
const group = useAddress('group')
const which = useAddress('which', 'squad')
const away = computed(() => which.value === 'away')

const { data, error, isPending } = useSquad(away)
const rows = computed(() => data.value?.athletes ?? [])
const lines = computed(() =>
  board(rows.value, { text: text.value, group: group.value, sort: sort.value as Sort }, data.value?.today ?? ''),
)
const groups = computed(() => groupsOf(rows.value))

const adding = ref(false)
const replanning = ref(false)
const actions = useSquadActions()

/** Who is chosen, of those that are seen. */
const marked = ref(new Set<string>())
const chosen = computed(() =>
  lines.value.flatMap((l) => (l.kind === 'golfer' && marked.value.has(l.row.id) ? [l.row] : [])),
)
function mark(id: string, on: boolean) {
  const next = new Set(marked.value)
  if (on) next.add(id)
  else next.delete(id)
  marked.value = next
}
const shown = computed(() => lines.value.flatMap((l) => (l.kind === 'golfer' ? [l.row.id] : [])))
const all = computed({
  get: () => shown.value.length > 0 && chosen.value.length === shown.value.length,
  set: (on) => (marked.value = new Set(on ? shown.value : [])),
})
watch(which, () => (marked.value = new Set()))

// Led here to add one.
const route = useRoute()
const router = useRouter()
watch(
  () => route.query.add,
  async (add) => {
    if (add === undefined) return
    await router.replace({ name: 'squad' })
    adding.value = true
  },
  { immediate: true },
)
</script>

<template>
  <div class="sheet">
    <div class="row spread head">
      <h1>Squad</h1>
      <div class="row controls">
        <input
          v-model="text"
          type="search"
          class="plain filter"
          placeholder="Name, group or what is due"
          aria-label="Name, group or what is due"
        />
        <select v-model="sort" aria-label="Order of the squad">
          <option v-for="s in sorts" :key="s.value" :value="s.value">{{ s.title }}</option>
        </select>
        <select v-if="groups.length || group" v-model="group" aria-label="Group">
          <option value="">every group</option>
          <option v-for="g in groups" :key="g" :value="g">{{ g }}</option>
        </select>
        <select v-model="which" aria-label="In the squad or put away">
          <option value="squad">in the squad</option>
          <option value="away">put away</option>
        </select>
        <Folded>
          <v-btn @click="replanning = true">Draft plans again…</v-btn>
          <v-btn :to="{ name: 'group-warmup' }">Warm-up for a group…</v-btn>
        </Folded>
        <v-btn variant="flat" color="action" :prepend-icon="mdiPlus" @click="adding = true">Add a golfer</v-btn>
      </div>
    </div>
    <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
    <p v-if="isPending" class="quiet">Loading the squad…</p>
    <EmptyState
      v-else-if="data && rows.length === 0 && !away"
      title="No golfers yet"
      text="Add the first one: a name, a birth date and the side they play from are enough."
    >
      <v-btn variant="flat" color="action" @click="adding = true">Add a golfer</v-btn>
    </EmptyState>
    <p v-else-if="data && rows.length === 0" class="quiet">Nobody is put away.</p>
    <p v-else-if="data && lines.length === 0" class="quiet">
      No golfer matches{{ text ? ` “${text}”` : '' }}{{ group ? ` in ${group}` : '' }}.
    </p>
    <SquadBoard v-else-if="data" v-model:all="all" :lines="lines" :marked="marked" @mark="mark" />
    <SeveralBar
      v-if="chosen.length || actions.done.value || actions.wrong.value"
      :golfers="chosen"
      :groups="groups"
      :away="away"
      :actions="actions"
      @clear="marked = new Set()"
    />
    <NewGolfer v-model="adding" />
    <ReplanDialog v-model="replanning" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 8px;
}
.controls {
  flex-wrap: wrap;
}
.filter {
  width: 230px;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  min-height: 40px;
  padding: 2px 6px;
}
@media print {
  .controls {
    display: none;
  }
}
</style>
