<script setup lang="ts">
import { mdiNoteTextOutline } from '@mdi/js'
import { computed } from 'vue'

import GolferFace from '@/parts/GolferFace.vue'
import SeasonLane from '@/parts/SeasonLane.vue'

import type { SquadRow } from './rows'

/** One golfer of the squad: who, what is due, and the season. */
const props = defineProps<{ row: SquadRow }>()
const chosen = defineModel<boolean>('chosen', { required: true })

const grave = computed(() =>
  props.row.clearance === 'red-flag' ? 'stop' : props.row.clearance === 'clear' ? '' : 'attention',
)
</script>

<template>
  <div class="golfer">
    <label class="pick"><input v-model="chosen" type="checkbox" :aria-label="`Choose ${props.row.name}`" /></label>
    <GolferFace :golfer-id="props.row.id" :name="props.row.name" :photo="props.row.photo" />
    <div class="who">
      <router-link :to="{ name: 'read', params: { id: props.row.id } }" class="name">{{ props.row.name }}</router-link>
      <span class="quiet small facts"
        >{{ props.row.age }} · plays {{ props.row.playingSide
        }}<template v-if="props.row.groups.length"> · {{ props.row.groups.join(', ') }}</template>
        <v-icon v-if="props.row.notes" :icon="mdiNoteTextOutline" size="15" :title="props.row.notes" />
        <span v-if="props.row.notes" class="visually-hidden">Notes: {{ props.row.notes }}</span></span
      >
    </div>
    <router-link :to="{ name: props.row.step, params: { id: props.row.id } }" class="due small" :class="grave">{{
      props.row.note
    }}</router-link>
    <div class="lane"><SeasonLane :lane="props.row.lane" :golfer-id="props.row.id" /></div>
  </div>
</template>

<style scoped>
.golfer {
  display: grid;
  grid-template-columns: 32px 44px 190px 180px minmax(0, 1fr);
  align-items: center;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  height: 62px;
}
.pick {
  display: grid;
  place-items: center start;
  min-height: 44px;
}
.pick input {
  width: 18px;
  height: 18px;
  accent-color: rgb(var(--v-theme-primary));
}
.who {
  display: flex;
  flex-direction: column;
  min-width: 0;
  padding-right: 8px;
}
.name {
  font-weight: 650;
  color: inherit;
}
.name,
.facts {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.due {
  color: inherit;
  padding-right: 8px;
}
.lane {
  display: grid;
  grid-template-columns: 0 1fr;
  min-width: 0;
}
@media (max-width: 700px) {
  .golfer {
    grid-template-columns: 32px 44px minmax(0, 1fr) minmax(0, 1fr);
    grid-template-rows: 56px 48px;
    height: 112px;
    padding: 4px 0;
  }
  .lane {
    grid-column: 1 / -1;
  }
}
</style>
