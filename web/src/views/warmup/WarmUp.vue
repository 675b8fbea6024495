<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'

import { useAthlete } from '@/api/queries'
import { vFirst } from '@/keys/first'
import { late, LateDialog } from '@/parts/late'
import LateMenu from '@/parts/LateMenu.vue'

import { ofGolfer } from './sources'
import { type Kept, useKept, useWarmUp } from './useWarmUp'
import WarmUpBench from './WarmUpBench.vue'

/** The warm-ups of a golfer: built, and kept by name. */
const props = defineProps<{ id: string }>()
const TemplateList = late(() => import('./TemplateList.vue'))
const { data: golfer } = useAthlete(() => props.id)
const w = useWarmUp(ofGolfer(props.id), { purpose: 'tee', minutes: 10, place: 'tee', walk: 4 })
const { made, wanted } = w
const { list, keep, drop } = useKept(props.id)
onMounted(() => void w.begin())

const naming = ref(false)
const name = ref('')
const said = ref('')
async function keepIt() {
  if (!made.value) return
  try {
    const k = await keep.mutateAsync({ name: name.value, request: made.value.request, items: made.value.items })
    said.value = `“${k.name}” is kept.`
    naming.value = false
  } catch (e) {
    said.value = (e as Error).message
  }
}
async function dropIt(k: Kept) {
  await drop.mutateAsync(k.id)
  said.value = `“${k.name}” is removed.`
}
const whose = computed(() => golfer.value?.profile.name ?? '')
</script>

<template>
  <WarmUpBench :bench="w" heading="Warm-up" :whose="whose" :group="false">
    <template #kept>
      <LateMenu>
        <template #activator="{ props: on }">
          <v-btn v-bind="on" size="small">Templates and kept…</v-btn>
        </template>
        <TemplateList
          :templates="list?.templates ?? []"
          :kept="list?.kept ?? []"
          @ask="wanted = $event"
          @load="w.load"
          @drop="dropIt"
        />
      </LateMenu>
    </template>
    <template #keep><v-btn size="small" :disabled="!made" @click="naming = true">Keep…</v-btn></template>
    <p v-if="said" class="small" role="status">{{ said }}</p>
    <LateDialog v-model="naming" max-width="420">
      <form class="box" @submit.prevent="keepIt">
        <h2>Keep this warm-up</h2>
        <v-text-field v-model="name" label="Name" maxlength="120" v-first />
        <div class="row">
          <v-btn type="submit" variant="flat" color="action" :disabled="!name.trim()" :loading="keep.isPending.value"
            >Keep</v-btn
          >
          <v-btn @click="naming = false">Cancel</v-btn>
        </div>
      </form>
    </LateDialog>
  </WarmUpBench>
</template>
