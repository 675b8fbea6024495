<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useAthlete } from '@/api/queries'
import EmptyState from '@/parts/EmptyState.vue'
import { lateDialog } from '@/parts/late'

import FindingsRail from './FindingsRail.vue'
import JumpView from './JumpView.vue'
import OverlayPanel from './OverlayPanel.vue'
import RecordingList from './RecordingList.vue'
import SwingView from './SwingView.vue'
import { useForceEdits, useForcePage, useRecording } from './useForce'

const BringIn = lateDialog(() => import('./BringIn.vue'))
const LivePlates = lateDialog(() => import('./LivePlates.vue'))
const SettingsDialog = lateDialog(() => import('./SettingsDialog.vue'))

const props = defineProps<{ id: string; recordingId?: string }>()
const router = useRouter()
const { data: golfer } = useAthlete(() => props.id)
const { data: page, error } = useForcePage(() => props.id)
const shown = computed(() => props.recordingId || page.value?.recordings[0]?.id || '')
const { data: recording, error: missing } = useRecording(shown)
const edits = useForceEdits(() => props.id)

const bringing = ref(false)
const live = ref(false)
const setting = ref(false)
const first = ref<string[]>([])
const second = ref<string[]>([])
watch(
  () => page.value?.recordings.map((r) => r.id).join(),
  () => {
    const there = new Set(page.value?.recordings.map((r) => r.id))
    first.value = first.value.filter((x) => there.has(x))
    second.value = second.value.filter((x) => there.has(x))
  },
)
const comparing = computed(() => first.value.length > 0 && first.value.length + second.value.length > 1)
function open(id: string) {
  first.value = []
  second.value = []
  void router.push({ name: 'force', params: { id: props.id, recordingId: id } })
}
const undone = ref('')
async function remove(id: string) {
  const r = page.value?.recordings.find((x) => x.id === id)
  await edits.remove.mutateAsync(id)
  undone.value = `${r?.name ?? 'The recording'} and what it put in the screen are gone.`
  if (id === props.recordingId) await router.replace({ name: 'force', params: { id: props.id } })
}
</script>

<template>
  <div class="split">
    <RecordingList
      v-if="!page || page.recordings.length"
      v-model:first="first"
      v-model:second="second"
      :recordings="page?.recordings ?? []"
      :shown="shown"
      @open="open"
      @bring="bringing = true"
      @live="live = true"
    />
    <div class="sheet">
      <h1 v-if="!recording && !comparing" class="visually-hidden">Force</h1>
      <p v-if="error || missing" class="stop" role="alert">{{ (error ?? missing)?.message }}</p>
      <p v-if="undone" class="small" role="status">{{ undone }}</p>
      <EmptyState
        v-if="page && !page.recordings.length"
        title="No recordings yet"
        text="Bring in what your plates recorded, as CSV or C3D, or record a jump or swing live."
      >
        <v-btn variant="flat" color="action" @click="bringing = true">Bring in recordings</v-btn>
        <v-btn @click="live = true">Record live</v-btn>
      </EmptyState>
      <OverlayPanel v-else-if="comparing" :athlete-id="props.id" :first="first" :second="second" />
      <template v-else-if="recording && golfer">
        <SwingView
          v-if="recording.swing"
          :swing="recording.swing"
          :key="recording.id"
          :recording="recording"
          @remove="remove(recording.id)"
        />
        <JumpView
          v-else-if="recording.jump"
          :jump="recording.jump"
          :key="recording.id"
          :recording="recording"
          :page="page"
          @remove="remove(recording.id)"
        />
      </template>
    </div>
    <FindingsRail
      v-if="page && page.recordings.length"
      :page="page"
      :athlete-id="props.id"
      @settings="setting = true"
    />
    <BringIn v-if="golfer" v-model="bringing" :golfer="golfer" @shown="open" />
    <LivePlates v-if="golfer" v-model="live" :golfer="golfer" @shown="open" />
    <SettingsDialog v-if="page" v-model="setting" :athlete-id="props.id" :page="page" />
  </div>
</template>
