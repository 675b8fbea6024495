<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive } from 'vue'
import { useRouter } from 'vue-router'

import { api, ApiError, must } from '@/api/client'
import { keys } from '@/api/keys'
import { vFirst } from '@/keys/first'
import { playingSides } from '@/parts/choices'
import SelectField from '@/parts/SelectField.vue'

const open = defineModel<boolean>({ required: true })
/** A golfer whose days, kit, groups and competitions the new one gets. */
const props = defineProps<{ after?: { id: string; name: string } }>()
const router = useRouter()
const client = useQueryClient()
const form = reactive({ name: '', birthDate: '', playingSide: 'right' as 'right' | 'left' })

const add = useMutation({
  mutationFn: () => {
    const body = { profile: { ...form, trainingMonths: 0 } }
    return must(
      props.after
        ? api.POST('/athletes/{athleteId}/after', { params: { path: { athleteId: props.after.id } }, body })
        : api.POST('/athletes', { body }),
    )
  },
  onSuccess: async (golfer) => {
    await client.invalidateQueries({ queryKey: keys.squad() })
    await client.invalidateQueries({ queryKey: keys.golfers() })
    open.value = false
    void router.push({ name: 'intake', params: { id: golfer.id } })
  },
})
const wrong = computed(() => {
  const error = add.error.value
  const fields = error instanceof ApiError ? error.fields : []
  const of = (name: string) => fields.find((f) => f.field.endsWith(name))?.detail
  return { name: of('name'), birthDate: of('birthDate') }
})
</script>

<template>
  <v-dialog v-model="open" max-width="420">
    <form class="box" @submit.prevent="add.mutate()">
      <h2>{{ props.after ? `A golfer like ${props.after.name}` : 'Add a golfer' }}</h2>
      <p v-if="props.after" class="small">
        Days, kit, groups, school and coming competitions are taken over. Questions, limits and screens are their own.
      </p>
      <v-text-field v-model="form.name" label="Name" v-first name="name" :error-messages="wrong.name" />
      <v-text-field
        v-model="form.birthDate"
        label="Birth date"
        type="date"
        name="birthDate"
        :error-messages="wrong.birthDate"
      />
      <SelectField v-model="form.playingSide" label="Plays from the" :items="playingSides" />
      <p v-if="add.error.value && !wrong.name && !wrong.birthDate" class="stop" role="alert">
        {{ add.error.value.message }}
      </p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :loading="add.isPending.value">Add</v-btn>
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
