<script setup lang="ts" generic="At">
import { lateDialog } from '@/parts/late'

import type { Test } from './cells'
import type { useTrialDialogs } from './useTrialDialogs'

const FieldsDialog = lateDialog(() => import('./FieldsDialog.vue'), { opens: 'open', soon: true })
const PainDialog = lateDialog(() => import('./PainDialog.vue'), { opens: 'open', soon: true })
const SkipDialog = lateDialog(() => import('./SkipDialog.vue'), { opens: 'open', soon: true })

/** The questions about a trial: pain, why it was skipped, the parts of its value. */
const props = defineProps<{
  dialogs: ReturnType<typeof useTrialDialogs<At>>
  regions: string[]
  stopsAt: number
  test: Test | undefined
  /** In which its values are typed. */
  unit: string
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
  <FieldsDialog
    :open="props.dialogs.fieldsOpen.value"
    :test="props.test"
    :text="props.dialogs.fieldsText.value"
    :unit="props.unit"
    @save="props.dialogs.saveFields"
    @close="props.dialogs.close"
    @closed="props.dialogs.goOn"
  />
</template>
