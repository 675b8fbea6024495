<script setup lang="ts">
import { nextTick, onMounted, ref } from 'vue'

/**
 * A dose as it is typed, in its cell. Enter takes it, Shift+Enter from this week on, Escape leaves it; a click elsewhere takes it too.
 * What cannot be read stays in the field with the reason.
 */
const props = defineProps<{ typed: string; first?: string; label: string; error?: string }>()
const emit = defineEmits<{ take: [text: string, line: boolean]; leave: [] }>()
const text = ref(props.first ?? props.typed)
const field = ref<HTMLInputElement>()
let done = false
let sent = ''
onMounted(async () => {
  await nextTick()
  field.value?.focus()
  if (!props.first) field.value?.select()
})
function take(line: boolean) {
  if (done) return
  const now = text.value.trim()
  if (now === '' || now === props.typed) {
    done = true
    emit('leave')
    return
  }
  if (now === sent) return // it is on its way, or was refused as it is
  sent = now
  emit('take', now, line)
}
function leave() {
  done = true
  emit('leave')
}
</script>

<template>
  <span class="typing">
    <input
      ref="field"
      v-model="text"
      class="num"
      :aria-label="props.label"
      :aria-invalid="!!props.error"
      autocomplete="off"
      spellcheck="false"
      maxlength="80"
      placeholder="4x6 @2"
      @keydown.enter.stop.prevent="take($event.shiftKey)"
      @keydown.esc.stop.prevent="leave"
      @keydown.stop
      @click.stop
      @blur="take(false)"
    />
    <span v-if="props.error" class="small stop" role="alert">{{ props.error }}</span>
    <span v-else class="small quiet">Enter takes it, Shift+Enter from this week on</span>
  </span>
</template>

<style scoped>
.typing {
  display: grid;
  gap: 2px;
  padding: 2px 0;
}
input {
  font: inherit;
  color: inherit;
  width: 100%;
  padding: 4px 5px;
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-action));
}
</style>
