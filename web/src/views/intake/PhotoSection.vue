<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import GolferFace from '@/parts/GolferFace.vue'

import { shrink } from './shrink'

/** A photo of the golfer: a small square is kept, nothing else. Under 18 only with the guardian's consent. */
const props = defineProps<{ golfer: Schemas['Athlete'] }>()
const client = useQueryClient()
const path = () => ({ params: { path: { athleteId: props.golfer.id } } })
const kept = async (g: Schemas['Athlete']) => {
  await client.cancelQueries({ queryKey: keys.athlete(g.id) }) // what was asked for before knows nothing of it
  client.setQueryData(keys.athlete(g.id), g)
  void client.invalidateQueries({ queryKey: keys.squad() })
}
const put = useMutation({
  mutationFn: async (file: File) => {
    const photo = await shrink(file)
    return must(
      api.PUT('/athletes/{athleteId}/photo', {
        ...path(),
        headers: { 'Content-Type': 'application/octet-stream' },
        body: '' as string,
        bodySerializer: () => photo,
      }),
    )
  },
  onSuccess: kept,
})
const remove = useMutation({
  mutationFn: () => must(api.DELETE('/athletes/{athleteId}/photo', path())),
  onSuccess: kept,
})
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) put.mutate(file)
  input.value = ''
}
const asked = computed(() => props.golfer.age < 18 && !props.golfer.consent)
const wrong = computed(() => put.error.value ?? remove.error.value)
</script>

<template>
  <section class="photo row" aria-label="Photo">
    <GolferFace large :golfer-id="props.golfer.id" :name="props.golfer.profile.name" :photo="props.golfer.photo" />
    <div>
      <div class="row">
        <label v-if="!asked">
          <v-btn tag="span" size="small" variant="outlined" :loading="put.isPending.value">{{
            props.golfer.photo ? 'Another photo…' : 'Photo…'
          }}</v-btn>
          <input
            type="file"
            class="visually-hidden"
            accept="image/jpeg,image/png,image/webp"
            aria-label="Photo of the golfer"
            @change="choose"
          />
        </label>
        <v-btn v-if="props.golfer.photo" size="small" @click="remove.mutate()">Remove the photo</v-btn>
      </div>
      <p class="small quiet">
        {{
          asked
            ? 'Under 18: a photo needs the guardian’s consent, below.'
            : 'A small square is kept, without place or camera. It goes with the golfer when they are erased.'
        }}
      </p>
      <p v-if="wrong" class="stop small" role="alert">{{ wrong.message }}</p>
    </div>
  </section>
</template>

<style scoped>
.photo {
  gap: 16px;
  align-items: center;
}
</style>
