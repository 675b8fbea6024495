<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { vFirst } from '@/keys/first'

/** Erasing is asked for by the golfer's name. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ athleteId: string; name: string }>()
const router = useRouter()
const client = useQueryClient()
const typed = ref('')
// Who keeps a golfer is asked for the name again the next time.
watch(open, () => {
  typed.value = ''
  erase.reset()
})
const erase = useMutation({
  mutationFn: () => must(api.DELETE('/athletes/{athleteId}', { params: { path: { athleteId: props.athleteId } } })),
  onSuccess: async () => {
    await client.invalidateQueries({ queryKey: keys.squad() })
    void router.push('/')
  },
})
</script>

<template>
  <v-dialog v-model="open" max-width="460">
    <div class="box">
      <h2>Erase {{ props.name }}?</h2>
      <p>Facts, screens and every programme, issued ones too, are gone for good. Export first if they may be needed.</p>
      <v-text-field v-model="typed" label="Type the name to erase" v-first />
      <p v-if="erase.error.value" class="stop">{{ erase.error.value.message }}</p>
      <div class="row">
        <v-btn color="error" variant="flat" :disabled="typed !== props.name" @click="erase.mutate()">Erase</v-btn>
        <v-btn @click="open = false">Keep</v-btn>
      </div>
    </div>
  </v-dialog>
</template>
