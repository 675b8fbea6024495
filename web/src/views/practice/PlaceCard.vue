<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { ref, watch } from 'vue'

import type { Schemas } from '@/api/client'

/** A place the practice trains at: its name, and what stands there. */
const props = defineProps<{ place: Schemas['Place']; known: string[]; wrong: string }>()
const emit = defineEmits<{ change: [place: Schemas['Place']]; remove: [] }>()
const name = ref(props.place.name)
watch(
  () => props.place.name,
  (n) => (name.value = n),
)
const toggle = (kit: string, here: boolean) =>
  emit('change', {
    ...props.place,
    kit: here ? [...props.place.kit, kit].sort() : props.place.kit.filter((k) => k !== kit),
  })
</script>

<template>
  <section class="place" :aria-label="props.place.name || 'A new place'">
    <div class="row">
      <v-text-field
        v-model="name"
        label="Name of the place"
        maxlength="40"
        hide-details="auto"
        :error-messages="props.wrong"
        @change="emit('change', { ...props.place, name: name.trim() })"
      />
      <v-btn :prepend-icon="mdiDeleteOutline" @click="emit('remove')">Remove</v-btn>
    </div>
    <div class="chips" role="group" :aria-label="`Kit in ${props.place.name}`">
      <label v-for="k in props.known" :key="k"
        ><input
          type="checkbox"
          :checked="props.place.kit.includes(k)"
          @change="toggle(k, ($event.target as HTMLInputElement).checked)"
        />
        {{ k }}</label
      >
    </div>
  </section>
</template>

<style scoped>
.place {
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  padding: 12px;
}
.row {
  flex-wrap: nowrap;
}
.chips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
  gap: 4px 12px;
  margin-top: 10px;
}
</style>
