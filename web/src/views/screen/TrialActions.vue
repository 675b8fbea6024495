<script setup lang="ts">
/**
 * What can be said of the trial that is chosen besides its value, for a thumb as for a mouse: the keys do the same.
 */
const props = defineProps<{ what: string; disabled: boolean; undo: boolean; redo: boolean; parts?: boolean }>()
const emit = defineEmits<{ fields: []; pain: []; stopped: []; skip: []; undo: []; redo: [] }>()
</script>

<template>
  <div class="acts" role="group" aria-label="This trial">
    <span class="what small quiet">{{ props.what }}</span>
    <v-btn v-if="props.parts" variant="outlined" :disabled="props.disabled" @click="emit('fields')">Fields…</v-btn>
    <v-btn variant="outlined" :disabled="props.disabled" @click="emit('pain')">Pain…</v-btn>
    <v-btn variant="outlined" :disabled="props.disabled" @click="emit('stopped')">Stopped</v-btn>
    <v-btn variant="outlined" :disabled="props.disabled" @click="emit('skip')">Skipped…</v-btn>
    <span class="gap" />
    <v-btn :disabled="!props.undo" @click="emit('undo')">Undo</v-btn>
    <v-btn :disabled="!props.redo" @click="emit('redo')">Redo</v-btn>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  flex: 1;
}
.acts .v-btn {
  height: 28px;
  padding: 0 10px;
}
.what {
  max-width: 320px;
  margin-right: 6px;
}
.gap {
  flex: 1;
  max-width: 24px;
}
@media (pointer: coarse) {
  .acts .v-btn {
    height: 44px;
    min-width: 64px;
    padding: 0 12px;
  }
}
@media (max-width: 700px) {
  .what {
    flex-basis: 100%;
    margin: 0;
  }
  .acts .v-btn {
    min-width: 0;
    padding: 0 8px;
  }
  .gap {
    max-width: 4px;
  }
}
</style>
