<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import type { Schemas } from '@/api/client'
import { useSquad } from '@/api/queries'
import Folded from '@/parts/Folded.vue'
import EmptyState from '@/parts/EmptyState.vue'
import SeasonLane from '@/parts/SeasonLane.vue'

import NewGolfer from './NewGolfer.vue'
import ReplanDialog from './ReplanDialog.vue'

const { data, error, isPending } = useSquad()
const adding = ref(false)
const replanning = ref(false)
const filter = ref('')
const rows = computed(() => {
  const words = filter.value.toLowerCase().trim()
  return (data.value?.athletes ?? []).filter(
    (a) => a.name.toLowerCase().includes(words) || a.note.toLowerCase().includes(words),
  )
})

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

/** Where the thing that is due is done. */
function next(a: Schemas['SquadRow']): string {
  const step = a.note.split(':')[0]
  if (step === 'Intake' || step?.startsWith('Red')) return 'intake'
  if (step === 'Screen') return 'screen'
  return step === 'Programme' || step?.startsWith('On') ? 'programme' : 'read'
}
</script>

<template>
  <div class="sheet">
    <div class="row spread head">
      <h1>Squad</h1>
      <div class="row">
        <v-text-field
          v-model="filter"
          label="Name or what is due"
          class="filter"
          clearable
          @click:clear="filter = ''"
        />
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
      v-else-if="data?.athletes.length === 0"
      title="No golfers yet"
      text="Add the first one: a name, a birth date and the side they play from are enough."
    >
      <v-btn variant="flat" color="action" @click="adding = true">Add a golfer</v-btn>
    </EmptyState>
    <p v-else-if="data && rows.length === 0" class="quiet">No golfer matches “{{ filter }}”.</p>
    <ul v-else-if="data" class="board">
      <li v-for="a in rows" :key="a.id" class="golfer">
        <div class="who">
          <router-link :to="{ name: 'read', params: { id: a.id } }" class="name">{{ a.name }}</router-link>
          <span class="quiet small">{{ a.age }} · {{ a.playingSide }}-sided</span>
        </div>
        <router-link
          :to="{ name: next(a), params: { id: a.id } }"
          class="due small"
          :class="{
            stop: a.clearance === 'red-flag',
            attention: a.clearance !== 'clear' && a.clearance !== 'red-flag',
          }"
          >{{ a.note }}</router-link
        >
        <div class="lane"><SeasonLane :lane="a.lane" :golfer-id="a.id" labelled /></div>
      </li>
    </ul>
    <NewGolfer v-model="adding" />
    <ReplanDialog v-model="replanning" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
.filter {
  width: 240px;
}
.board {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1px solid rgb(var(--v-theme-line));
}
.golfer {
  display: grid;
  grid-template-columns: 180px 190px 1fr;
  align-items: center;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  min-height: 62px;
}
.who {
  display: flex;
  flex-direction: column;
}
.name {
  font-weight: 650;
  color: inherit;
}
.due {
  color: inherit;
}
.lane {
  display: grid;
  grid-template-columns: 0 1fr;
  min-width: 0;
}
@media (max-width: 700px) {
  .golfer {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    padding: 6px 0;
    gap: 4px 8px;
  }
  .lane {
    grid-column: 1 / -1;
  }
}
</style>
