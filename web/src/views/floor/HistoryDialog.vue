<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useSession } from '@/api/queries'
import { moment } from '@/parts/clock'
import { longDay } from '@/parts/days'

/** Everything that was noted of a session, with who noted it and when: nothing that stood is lost. */
const props = defineProps<{ id: string; row: Schemas['SessionRow'] }>()
const emit = defineEmits<{ close: [] }>()
const { data: me } = useSession()
const { data, error } = useQuery({
  queryKey: keys.floorHistory(props.id, props.row.session),
  queryFn: () =>
    must(
      api.GET('/athletes/{athleteId}/floor/{sessionId}/history', {
        params: { path: { athleteId: props.id, sessionId: props.row.session } },
      }),
    ),
  staleTime: 0,
})
const { data: sheet } = useQuery({
  queryKey: keys.floorSession(props.id, props.row.session),
  queryFn: () =>
    must(
      api.GET('/athletes/{athleteId}/floor/{sessionId}', {
        params: { path: { athleteId: props.id, sessionId: props.row.session } },
      }),
    ),
})
const nameOf = (item?: string) => sheet.value?.sheet.pieces.find((p) => p.item === item)?.name ?? ''
const where = (t: Schemas['LogTold']) =>
  [nameOf(t.item), t.number ? (t.number < 0 ? `warm-up set ${-t.number}` : `set ${t.number}`) : '']
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="640"
    scrollable
    aria-label="History of the session"
    @update:model-value="emit('close')"
  >
    <div class="box">
      <h2>{{ props.row.title }}, {{ longDay(props.row.date) }}</h2>
      <p v-if="error" class="stop">{{ error.message }}</p>
      <ol class="list small">
        <li v-for="t in data" :key="t.id">
          <span class="quiet num">{{ moment(t.at, me?.zone) }}</span>
          <span
            ><strong>{{ where(t) }}</strong> {{ t.words }} <span class="quiet">{{ t.by }}</span></span
          >
        </li>
      </ol>
      <v-btn @click="emit('close')">Close</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
  margin: 0;
  max-height: 60vh;
  overflow-y: auto;
}
.list li {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 8px;
  padding: 3px 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
</style>
