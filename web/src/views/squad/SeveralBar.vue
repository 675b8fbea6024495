<script setup lang="ts">
import { computed, ref } from 'vue'

import { lateDialog } from '@/parts/late'
import { count, paperHere } from '@/parts/words'

import type { SquadRow } from './rows'
import type { useSquadActions } from './useSquadActions'

const DraftSeveral = lateDialog(() => import('./DraftSeveral.vue'))
const GroupDialog = lateDialog(() => import('./GroupDialog.vue'))

/** What can be done with the golfers that are chosen; and what was done, to be taken back. */
const props = defineProps<{
  golfers: SquadRow[]
  groups: string[]
  away: boolean
  actions: ReturnType<typeof useSquadActions>
}>()
const emit = defineEmits<{ clear: [] }>()

const ids = computed(() => props.golfers.map((g) => g.id))
const query = computed(() => ids.value.join(','))
const drafting = ref(false)
const grouping = ref(false)
/** The most that are printed at once, as the server has it. */
const PRINTED = 60
const trained = computed(() => props.golfers.filter((g) => g.lane.blocks.some((b) => b.status !== 'pencilled')).length)

function archive(away: boolean) {
  props.actions.archive.mutate({ golfers: ids.value, away })
  emit('clear')
}
function group(name: string, within: boolean) {
  props.actions.group.mutate({ golfers: ids.value, group: name, in: within })
  grouping.value = false
}
</script>

<template>
  <section class="bar no-print" aria-label="With the golfers chosen">
    <template v-if="props.golfers.length">
      <strong>{{ count(props.golfers.length, 'golfer') }}</strong>
      <template v-if="!props.away">
        <v-btn size="small" @click="drafting = true">Draft…</v-btn>
        <v-btn
          v-if="trained > 0 && props.golfers.length <= PRINTED"
          size="small"
          target="_blank"
          :href="`/api/v1/squad/programmes.pdf?golfers=${query}&paper=${paperHere()}`"
          >Print{{ trained < props.golfers.length ? ` ${trained}` : '' }}</v-btn
        >
        <v-btn size="small" :to="{ name: 'plan-day', query: { golfers: query } }">Screen day…</v-btn>
        <v-btn v-if="props.golfers.length > 1" size="small" :to="{ name: 'plan-class', query: { golfers: query } }"
          >Class…</v-btn
        >
        <v-btn size="small" @click="grouping = true">Group…</v-btn>
      </template>
      <v-btn size="small" :href="`/api/v1/exports/xlsx?golfers=${query}`" download>Export</v-btn>
      <v-btn v-if="props.away" size="small" @click="archive(false)">Back into the squad</v-btn>
      <v-btn v-else size="small" @click="archive(true)">Put away</v-btn>
      <v-btn size="small" @click="emit('clear')">Choose nobody</v-btn>
    </template>
    <span class="gap" />
    <p v-if="props.actions.wrong.value" class="stop small" role="alert">{{ props.actions.wrong.value.message }}</p>
    <p v-if="props.actions.done.value" class="small" role="status">
      {{ props.actions.done.value.text }}.
      <v-btn size="small" variant="outlined" @click="props.actions.back.mutate()">Undo</v-btn>
    </p>
    <DraftSeveral v-model="drafting" :golfers="props.golfers" />
    <GroupDialog v-model="grouping" :golfers="props.golfers" :groups="props.groups" @put="group" />
  </section>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: var(--foot, 30px);
  z-index: 4;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  padding: 6px 12px;
  margin: 8px -12px 0;
  background: rgb(var(--v-theme-surface));
  border-block: 1px solid rgb(var(--v-theme-line));
}
.bar p {
  margin: 0;
}
.gap {
  flex: 1;
}
</style>
