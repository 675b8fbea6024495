<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { download, fileName } from '@/parts/download'
import SelectField from '@/parts/SelectField.vue'

/** A note to a doctor or physiotherapist: what was found and what was stopped, no diagnosis. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ athleteId: string }>()
const to = ref<'doctor' | 'physiotherapist'>('physiotherapist')
const remark = ref('')
const { data: note, error } = useQuery({
  queryKey: keys.referral(() => props.athleteId, to),
  queryFn: () =>
    must(
      api.POST('/athletes/{athleteId}/referral', {
        params: { path: { athleteId: props.athleteId } },
        body: { to: to.value },
      }),
    ),
  enabled: () => open.value,
})
/** The remark is about someone's health: it travels in the body, never in an address. */
const pdf = useMutation({
  mutationFn: () =>
    must(
      api.POST('/athletes/{athleteId}/referral.pdf', {
        params: { path: { athleteId: props.athleteId } },
        body: { to: to.value, ...(remark.value.trim() ? { remark: remark.value.trim() } : {}) },
        parseAs: 'blob',
      }),
    ),
  onSuccess: (blob) =>
    download(blob as unknown as Blob, `referral-${fileName(note.value?.golfer ?? '')}-${note.value?.on ?? ''}.pdf`),
})
</script>

<template>
  <v-dialog v-model="open" max-width="640">
    <div class="box">
      <h2>Referral note</h2>
      <SelectField
        v-model="to"
        label="To the"
        :items="[
          { title: 'physiotherapist', value: 'physiotherapist' },
          { title: 'doctor', value: 'doctor' },
        ]"
      />
      <p v-if="error" class="stop" role="alert">{{ error.message }}</p>
      <div v-if="note" class="note small">
        <p v-if="note.urgent" class="stop">Urgent. {{ note.urgent }}</p>
        <template v-for="p in note.parts" :key="p.title">
          <h3>{{ p.title }}</h3>
          <ul>
            <li v-for="l in p.lines" :key="l">{{ l }}</li>
          </ul>
        </template>
      </div>
      <v-textarea v-model="remark" label="In your own words (no diagnosis)" rows="2" maxlength="1000" />
      <p v-if="note" class="small quiet">{{ note.footer }}</p>
      <p v-if="pdf.error.value" class="stop" role="alert">{{ pdf.error.value.message }}</p>
      <div class="row">
        <v-btn variant="flat" color="action" :loading="pdf.isPending.value" @click="pdf.mutate()"
          >Download as PDF</v-btn
        >
        <v-btn @click="open = false">Close</v-btn>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.note {
  max-height: 320px;
  overflow: auto;
  border-block: 1px solid rgb(var(--v-theme-line));
}
ul {
  margin: 2px 0 8px;
  padding-left: 20px;
}
</style>
