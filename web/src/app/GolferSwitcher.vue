<script setup lang="ts">
import { type Component, computed, ref, shallowRef } from 'vue'

import { useAthlete } from '@/api/queries'

/** Goes to another golfer by name: a plain field until somebody is in it, so that no page waits for its list. */
const props = defineProps<{ golferId: string }>()
const emit = defineEmits<{ choose: [id: string | null] }>()

const { data: golfer } = useAthlete(() => props.golferId)
const name = computed(() => (props.golferId && golfer.value?.profile.name) || '')
/** What is typed before the list is there. */
const typed = ref('')
const list = shallowRef<Component>()
async function want() {
  list.value ??= (await import('./GolferChoice.vue')).default
}
</script>

<template>
  <div>
    <component :is="list" v-if="list" :golfer-id="props.golferId" :begun="typed" @choose="emit('choose', $event)" />
    <template v-else>
      <input
        class="plain field"
        :value="typed || name"
        role="combobox"
        aria-expanded="false"
        aria-controls="golfers-found"
        aria-label="Golfer"
        placeholder="Golfer: type a name"
        @focus="want"
        @input="typed = ($event.target as HTMLInputElement).value"
      />
      <span id="golfers-found" hidden />
    </template>
  </div>
</template>

<style scoped>
.field {
  width: 100%;
}
</style>
