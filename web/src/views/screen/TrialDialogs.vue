<script setup lang="ts" generic="At">
import PainDialog from './PainDialog.vue'
import SkipDialog from './SkipDialog.vue'
import type { useTrialDialogs } from './useTrialDialogs'

/** The two questions about a trial: pain, and why it was skipped. */
const props = defineProps<{
  dialogs: ReturnType<typeof useTrialDialogs<At>>
  regions: string[]
  stopsAt: number
}>()
</script>

<template>
  <PainDialog
    :open="props.dialogs.painOpen.value"
    :regions="props.regions"
    :stops-at="props.stopsAt"
    @save="props.dialogs.savePain"
    @close="props.dialogs.close"
    @closed="props.dialogs.goOn"
  />
  <SkipDialog
    :open="props.dialogs.skipOpen.value"
    @save="props.dialogs.saveSkip"
    @close="props.dialogs.close"
    @closed="props.dialogs.goOn"
  />
</template>
