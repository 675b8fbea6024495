<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** The kit of a place of the practice, said in one tap. */
const kit = defineModel<string[] | undefined>({ required: true })
const props = defineProps<{ places: Schemas['Place'][] }>()
const same = (a: string[] | undefined, b: string[]) => a !== undefined && [...a].sort().join() === [...b].sort().join()
const places = computed(() => props.places.map((p) => ({ ...p, on: same(kit.value, p.kit) })))
</script>

<template>
  <div class="row" role="group" aria-label="Kit of a place">
    <v-btn
      v-for="p in places"
      :key="p.name"
      size="small"
      :variant="p.on ? 'flat' : 'outlined'"
      :color="p.on ? 'primary' : undefined"
      :aria-pressed="p.on"
      @click="kit = [...p.kit]"
      >{{ p.name }}</v-btn
    >
  </div>
</template>
