<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { longDay } from '@/parts/days'

/** The golfer's calendar as a file, and the private address a calendar program can follow. */
const props = defineProps<{ id: string }>()
const path = { params: { path: { athleteId: props.id } } }
const client = useQueryClient()
const queryKey = keys.calendar(() => props.id)
const { data: address, error } = useQuery({
  queryKey,
  queryFn: () => must(api.GET('/athletes/{athleteId}/calendar-address', path)),
})
const shown = ref('')
const said = ref('')
const make = useMutation({
  mutationFn: () => must(api.POST('/athletes/{athleteId}/calendar-address', path)),
  onSuccess: async (made) => {
    shown.value = location.origin + (made.path ?? '')
    said.value = ''
    await client.invalidateQueries({ queryKey })
  },
})
const revoke = useMutation({
  mutationFn: () => must(api.DELETE('/athletes/{athleteId}/calendar-address', path)),
  onSuccess: async () => {
    shown.value = ''
    said.value = 'The address is in force no longer.'
    await client.invalidateQueries({ queryKey })
  },
})
const wrong = computed(() => (make.error.value ?? revoke.error.value ?? error.value)?.message)
/** Not every address lets a page write to the clipboard: the field is there to copy from by hand. */
async function copy(event: MouseEvent) {
  const field = (event.currentTarget as HTMLElement).parentElement?.querySelector('input')
  field?.select()
  try {
    await navigator.clipboard.writeText(shown.value)
    said.value = 'Copied.'
  } catch {
    said.value = 'Marked: copy it with Ctrl C.'
  }
}
</script>

<template>
  <section class="no-print" data-testid="calendar">
    <h2>Calendar</h2>
    <p class="small quiet">
      Sessions of issued programmes, home work and competitions, with time and place of Intake; nothing about health.
      Whoever has the private address reads it without signing in, until it is revoked.
    </p>
    <div class="row">
      <v-btn variant="outlined" :href="`/api/v1/athletes/${props.id}/calendar.ics`" download>Calendar file</v-btn>
      <v-btn variant="outlined" :loading="make.isPending.value" @click="make.mutate()">{{
        address?.madeAt ? 'Make a new address' : 'Make a private address'
      }}</v-btn>
      <v-btn v-if="address?.madeAt" :loading="revoke.isPending.value" @click="revoke.mutate()">Revoke</v-btn>
      <span v-if="address?.madeAt && !shown" class="small quiet">
        In force since {{ longDay(address.madeAt.slice(0, 10)) }}, made by {{ address.madeBy }}. A new one ends it.
      </span>
    </div>
    <div v-if="shown" class="row address">
      <v-text-field :model-value="shown" label="Private address, shown this once" readonly />
      <v-btn @click="copy">Copy</v-btn>
    </div>
    <p class="small" role="status">{{ said }}</p>
    <p v-if="wrong" class="stop small" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
.row {
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
.address {
  margin-top: 10px;
}
.address > :first-child {
  flex: 1 1 320px;
}
</style>
