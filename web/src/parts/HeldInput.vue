<script setup lang="ts">
import { ref, watch } from 'vue'

/**
 * A field that tells of a change when it is left. What is being typed stays, whatever is saved and drawn anew meanwhile:
 * a plain field bound to a saved value would be emptied by it.
 */
const props = defineProps<{ value?: string | undefined }>()
const emit = defineEmits<{ change: [value: string] }>()
const text = ref(props.value ?? '')
const typing = ref(false)
watch(
  () => props.value,
  (v) => {
    if (!typing.value) text.value = v ?? ''
  },
)
function leave() {
  if (!typing.value) return
  typing.value = false
  if (text.value !== (props.value ?? '')) emit('change', text.value)
}
</script>

<template>
  <input v-model="text" @input="typing = true" @change="leave" @blur="leave" />
</template>
