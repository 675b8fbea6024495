<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '@/api/client'

/** What can be done with several items at once. */
const props = defineProps<{ ids: string[]; locked: boolean; error: string; clip: string }>()
const emit = defineEmits<{ edit: [edit: Schemas['Edit']]; copy: []; remove: []; close: [] }>()
const text = ref('')
const at = () => ({ at: props.ids[0] ?? '', also: props.ids.slice(1) })
const change = () => text.value.trim() && emit('edit', { kind: 'dose', ...at(), text: text.value.trim() })
</script>

<template>
  <p class="small quiet row spread">
    <span>Shift or Ctrl chooses more</span><button class="plain" @click="emit('close')">Choose none</button>
  </p>
  <form class="line" @submit.prevent="change">
    <label for="several-dose" class="small">Dose for all of them, as it is typed</label>
    <input id="several-dose" v-model="text" class="num" placeholder="4x6 @2" maxlength="80" />
    <p v-if="props.error" class="small stop" role="alert">{{ props.error }}</p>
    <v-btn type="submit" size="small" variant="flat" color="action" :disabled="!text.trim()">Change them</v-btn>
  </form>
  <div class="actions">
    <v-btn size="small" variant="outlined" @click="emit('edit', { kind: 'lock', ...at(), on: !props.locked })">{{
      props.locked ? 'Unlock them' : 'Lock them'
    }}</v-btn>
    <v-btn size="small" variant="outlined" @click="emit('copy')">Copy</v-btn>
    <v-btn size="small" variant="outlined" @click="emit('remove')">Remove them</v-btn>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 10px 0;
}
input {
  font: inherit;
  color: inherit;
  width: 100%;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
