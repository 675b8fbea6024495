<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { longDay } from '@/parts/days'

import { placeOf } from './grid'

/** The click way of what is dragged and typed: lock, turns, order, another session, copy and paste. */
const props = defineProps<{ item: Schemas['Item']; programme: Schemas['Programme']; clip: string }>()
const emit = defineEmits<{ edit: [edit: Schemas['Edit']]; copy: []; paste: []; replace: [] }>()
const place = computed(() => placeOf(props.programme, props.item.id))
const at = computed(() => place.value?.items.findIndex((i) => i.id === props.item.id) ?? -1)
const before = computed(() => place.value?.items[at.value - 1])
const turns = computed(() => (props.item.superset ? 'superset' : props.item.paired ? 'heavy-light' : 'alone'))
/** Where it can go: the other sessions of its week and of those around, and for range work the home days. */
const targets = computed(() =>
  props.programme.blocks
    .flatMap((b) => b.weeks)
    .flatMap((w) => [
      ...w.sessions.map((s) => ({ id: s.id, text: `week ${w.number}, ${longDay(s.date)}, day ${s.letter}` })),
      ...(props.item.slot === 'range'
        ? w.home.map((h) => ({ id: h.id, text: `week ${w.number}, at home ${longDay(h.date)}` }))
        : []),
    ])
    .filter((t) => t.id !== place.value?.id),
)
const to = ref('')
watch(
  () => props.item.id,
  () => (to.value = ''),
)
function up() {
  if (place.value && before.value)
    emit('edit', { kind: 'move', at: props.item.id, to: place.value.id, before: before.value.id })
}
function down() {
  const next = place.value?.items[at.value + 1]
  if (place.value && next) emit('edit', { kind: 'move', at: next.id, to: place.value.id, before: props.item.id })
}
</script>

<template>
  <div class="actions" role="group" aria-label="Item">
    <v-btn
      size="small"
      variant="outlined"
      @click="emit('edit', { kind: 'lock', at: props.item.id, on: !props.item.locked })"
      >{{ props.item.locked ? 'Unlock' : 'Lock' }}</v-btn
    >
    <v-btn size="small" variant="outlined" :disabled="at < 1" @click="up">Earlier</v-btn>
    <v-btn size="small" variant="outlined" :disabled="!place || at >= place.items.length - 1" @click="down"
      >Later</v-btn
    >
    <v-btn size="small" variant="outlined" @click="emit('copy')">Copy</v-btn>
    <v-btn v-if="props.clip" size="small" variant="outlined" @click="emit('paste')">Paste {{ props.clip }} here</v-btn>
    <v-btn size="small" variant="outlined" @click="emit('replace')">Replace over the block…</v-btn>
  </div>
  <label v-if="before" class="line small"
    >With {{ before.name }}
    <select
      :value="turns"
      @change="
        emit('edit', {
          kind: 'turns',
          at: props.item.id,
          scope: 'line',
          with: ($event.target as HTMLSelectElement).value as 'alone',
        })
      "
    >
      <option value="alone">one after the other</option>
      <option value="superset">as a superset</option>
      <option value="heavy-light">heavy and light in turns</option>
    </select></label
  >
  <label class="line small"
    >Note
    <textarea
      :key="props.item.id"
      :value="props.item.note ?? ''"
      rows="2"
      maxlength="500"
      @change="
        emit('edit', { kind: 'note', at: props.item.id, note: ($event.target as HTMLTextAreaElement).value.trim() })
      "
    ></textarea>
  </label>
  <form class="line small" @submit.prevent="to && emit('edit', { kind: 'move', at: props.item.id, to })">
    <label :for="`to-${props.item.id}`">Move to another session</label>
    <span class="row tight">
      <select :id="`to-${props.item.id}`" v-model="to">
        <option value="">choose it</option>
        <option v-for="t in targets" :key="t.id" :value="t.id">{{ t.text }}</option>
      </select>
      <v-btn type="submit" size="small" variant="outlined" :disabled="!to">Move</v-btn>
    </span>
  </form>
</template>

<style scoped>
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 8px 0;
}
.line {
  display: grid;
  gap: 3px;
  margin: 8px 0;
}
.tight {
  gap: 6px;
  flex-wrap: nowrap;
}
select,
textarea {
  font: inherit;
  color: inherit;
  width: 100%;
  min-width: 0;
  background: transparent;
  border: 1px solid rgb(var(--v-theme-line));
  padding: 4px 6px;
}
</style>
