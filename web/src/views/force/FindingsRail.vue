<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import ReasonRail from '@/parts/ReasonRail.vue'

import FindingList from './FindingList.vue'

const props = defineProps<{ page: Schemas['ForcePage']; athleteId: string }>()
const emit = defineEmits<{ settings: [] }>()
const training = computed(() => props.page.findings.filter((f) => f.training))
</script>

<template>
  <ReasonRail title="What it leads to">
    <p class="small quiet">From {{ props.page.findingsFrom || 'nothing yet' }}, against the windows of the practice.</p>
    <FindingList :findings="props.page.findings" />
    <p v-if="!props.page.findings.length" class="small">Everything measured lies in its window.</p>
    <p class="small">
      <router-link :to="{ name: 'read', params: { id: props.athleteId } }">The read</router-link>
      ranks ground force among everything else{{ training.length ? '; the programme serves it from there' : '' }}.
    </p>
    <p class="small">
      <router-link :to="{ name: 'force-page', params: { id: props.athleteId } }"
        >Page for the swing instructor</router-link
      >
    </p>
    <v-btn size="small" @click="emit('settings')">Windows and filters…</v-btn>
    <p class="small quiet">
      Windows are ours, common practice from memory, until you set your own. Numbers outside are a reason to look, never
      to diagnose; pain goes to a doctor or physiotherapist.
    </p>
  </ReasonRail>
</template>
