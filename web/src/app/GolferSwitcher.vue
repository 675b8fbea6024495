<script setup lang="ts">
import { ref } from 'vue'

import { useAthlete } from '@/api/queries'

import { late } from './late'

/** Goes to another golfer by name: a plain field until somebody wants to, so that no page waits for its list. */
const props = defineProps<{ golferId: string }>()
const emit = defineEmits<{ choose: [id: string | null] }>()

const GolferChoice = late(() => import('./GolferChoice.vue'))
const { data: golfer } = useAthlete(() => props.golferId)
const wanted = ref(false)
const typed = ref('')
</script>

<template>
  <div class="switch">
    <GolferChoice v-if="wanted" :golfer-id="props.golferId" :begun="typed" @choose="emit('choose', $event)" />
    <input
      v-else
      v-model="typed"
      role="combobox"
      aria-expanded="false"
      aria-controls="golfer-choice"
      aria-label="Golfer"
      :placeholder="golfer?.profile.name ?? 'Golfer: type a name'"
      @focus="wanted = true"
    />
    <span id="golfer-choice" hidden />
  </div>
</template>
