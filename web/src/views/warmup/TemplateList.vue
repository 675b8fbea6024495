<script setup lang="ts">
import type { Kept, Request } from './useWarmUp'

/** Requests to begin from by name, and the warm-ups that were kept. */
const props = defineProps<{ templates: { id: string; name: string; request: Request }[]; kept: Kept[] }>()
const emit = defineEmits<{ ask: [r: Request]; load: [k: Kept]; drop: [k: Kept] }>()
</script>

<template>
  <v-list density="compact">
    <v-list-item v-for="t in props.templates" :key="t.id" :title="t.name" @click="emit('ask', { ...t.request })" />
    <v-divider v-if="props.kept.length" />
    <v-list-item v-for="k in props.kept" :key="k.id" :title="k.name" subtitle="kept" @click="emit('load', k)">
      <template #append>
        <v-btn size="small" :aria-label="`Remove ${k.name}`" @click.stop="emit('drop', k)">Remove</v-btn>
      </template>
    </v-list-item>
  </v-list>
</template>
