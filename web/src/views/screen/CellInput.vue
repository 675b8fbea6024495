<script setup lang="ts">
import { ref } from 'vue'

/**
 * One cell of a sheet. What is being typed stays in it while the sheet around it changes, whoever changes it, until it
 * is given over with Enter or by leaving the cell.
 */
const props = defineProps<{ value: string }>()
const emit = defineEmits<{ commit: [text: string] }>()

const typing = ref<string | null>(null)

function give() {
  if (typing.value === null) return
  const text = typing.value
  typing.value = null
  emit('commit', text)
}
function onKey(event: KeyboardEvent) {
  if (event.key === 'Enter') give()
  else if (event.key === 'Escape') typing.value = null
  else if (event.key === 'z' && (event.ctrlKey || event.metaKey) && typing.value !== null) {
    // What is being typed over goes; what was saved stays, and so does the undo of the sheet around.
    typing.value = null
    event.preventDefault()
    event.stopImmediatePropagation()
  }
}
</script>

<template>
  <input
    :value="typing ?? props.value"
    inputmode="decimal"
    autocomplete="off"
    :data-typing="typing === null ? undefined : ''"
    @input="typing = ($event.target as HTMLInputElement).value"
    @keydown="onKey"
    @change="give"
    @blur="give"
  />
</template>
