<script setup lang="ts">
import { mdiPlus, mdiTrayArrowUp } from '@mdi/js'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget, useMeta, useScreens, useSession } from '@/api/queries'
import { longDay } from '@/parts/days'
import EmptyState from '@/parts/EmptyState.vue'
import Folded from '@/parts/Folded.vue'
import { LateDialog, lateDialog } from '@/parts/late'

import SheetTable from './SheetTable.vue'

const ImportDialog = lateDialog(() => import('./ImportDialog.vue'))
const StartScreen = lateDialog(() => import('./StartScreen.vue'))

const props = defineProps<{ id: string; screenId?: string }>()
const router = useRouter()
const client = useQueryClient()
const forget = useForget()
const { data: meta } = useMeta()
const { data: session } = useSession()
const { data: screens, error } = useScreens(props.id)
const importing = ref(false)
const importText = ref('')
const starting = ref(false)
// Without a screen in the address the newest one is shown.
watch(
  [screens, () => props.screenId],
  ([list, id]) => {
    const newest = list?.[0]
    if (!id && newest) void router.replace({ name: 'screen', params: { id: props.id, screenId: newest.id } })
  },
  { immediate: true },
)

const remove = useMutation({
  mutationFn: (screenId: string) => must(api.DELETE('/screens/{screenId}', { params: { path: { screenId } } })),
  onSuccess: async () => {
    removing.value = false
    await forget(props.id)
    void router.replace({ name: 'screen', params: { id: props.id } })
  },
})
const removing = ref(false)

function bringIn(text: string) {
  importText.value = text
  importing.value = true
}
async function imported() {
  importing.value = false
  await client.invalidateQueries({ queryKey: keys.screen() })
  await forget(props.id)
  void router.replace({ name: 'screen', params: { id: props.id } })
}
</script>

<template>
  <div class="column">
    <div class="bar row spread by-hand">
      <div class="row">
        <h1 class="visually-hidden">Screen</h1>
        <label v-if="screens && screens.length > 0" class="row"
          ><span class="wide">Screen of</span>
          <select
            :value="props.screenId"
            aria-label="Screen"
            @change="
              router.push({
                name: 'screen',
                params: { id: props.id, screenId: ($event.target as HTMLSelectElement).value },
              })
            "
          >
            <option v-for="s in screens" :key="s.id" :value="s.id">
              {{ longDay(s.date) }} {{ s.date.slice(0, 4) }} ({{ s.trials }} trials)
            </option>
          </select>
        </label>
      </div>
      <Folded>
        <v-btn :prepend-icon="mdiPlus" @click="starting = true">Start a screen</v-btn>
        <v-btn :prepend-icon="mdiTrayArrowUp" @click="bringIn('')">Bring in a file</v-btn>
        <v-btn v-if="props.screenId" @click="removing = true">Delete this screen…</v-btn>
      </Folded>
    </div>
    <p v-if="error" class="stop pad" role="alert">{{ error.message }}</p>
    <EmptyState
      v-if="screens && screens.length === 0"
      title="No screen yet"
      text="Start one and type, paste from a spreadsheet, or bring in a CSV file."
    >
      <v-btn variant="flat" color="action" @click="starting = true">Start a screen</v-btn>
      <v-btn @click="bringIn('')">Bring in a file</v-btn>
    </EmptyState>
    <SheetTable
      v-else-if="props.screenId && meta"
      :key="props.screenId"
      :screen-id="props.screenId"
      :athlete-id="props.id"
      :meta="meta"
      @import="bringIn"
    />

    <ImportDialog v-model="importing" :athlete-id="props.id" :text="importText" @done="imported" />
    <StartScreen
      v-model="starting"
      :athlete-id="props.id"
      :screens="screens ?? []"
      :sets="meta?.sets ?? []"
      :today="session?.today ?? ''"
    />
    <LateDialog v-model="removing" max-width="400">
      <div class="box">
        <h2>Delete this screen?</h2>
        <p>Every trial of that day is gone for good. Programmes made from it stay.</p>
        <p v-if="remove.error.value" class="stop">{{ remove.error.value.message }}</p>
        <div class="row">
          <v-btn color="error" variant="flat" @click="remove.mutate(props.screenId ?? '')">Delete</v-btn>
          <v-btn @click="removing = false">Keep</v-btn>
        </div>
      </div>
    </LateDialog>
  </div>
</template>

<style scoped>
.column {
  display: flex;
  flex-direction: column;
  flex: 1;
}
.bar {
  padding: 6px 20px;
  border-bottom: 1px solid rgb(var(--v-theme-line));
}
@media (max-width: 700px) {
  .bar {
    padding: 4px 12px;
  }
  .wide {
    display: none;
  }
}
.pad {
  padding: 20px;
}
select {
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
</style>
