<script setup lang="ts">
import { nextTick, onMounted, useTemplateRef } from 'vue'

/** A number from 0 to 10 on eleven keys: one tap, a digit (`1` and `0`: ten), or the arrows. */
const value = defineModel<number>({ required: true })
const props = defineProps<{ label: string; autofocus?: boolean }>()
const keys = useTemplateRef<HTMLElement>('keys')

const focus = () => keys.value?.querySelectorAll('button')[value.value]?.focus()
onMounted(() => void (props.autofocus && nextTick(focus)))
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  const digit = /^\d$/.test(event.key) ? Number(event.key) : undefined
  if (step === undefined && digit === undefined) return
  event.preventDefault()
  value.value =
    digit === undefined
      ? Math.min(10, Math.max(0, value.value + (step ?? 0)))
      : digit === 0 && value.value === 1
        ? 10
        : digit
  focus()
}
</script>

<template>
  <fieldset class="scale">
    <legend>{{ props.label }}</legend>
    <div ref="keys" class="keys" role="radiogroup" :aria-label="props.label" @keydown="onKey">
      <button
        v-for="n in 11"
        :key="n"
        type="button"
        role="radio"
        :aria-checked="value === n - 1"
        :tabindex="value === n - 1 ? 0 : -1"
        :class="{ on: value === n - 1 }"
        @click="value = n - 1"
      >
        {{ n - 1 }}
      </button>
    </div>
  </fieldset>
</template>

<style scoped>
.scale {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
.keys {
  display: grid;
  grid-template-columns: repeat(11, 1fr);
  gap: 4px;
}
@media (max-width: 620px) {
  .keys {
    grid-template-columns: repeat(6, 1fr);
  }
}
button {
  font: inherit;
  font-size: 18px;
  min-height: 44px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
  cursor: pointer;
  touch-action: manipulation;
}
.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
  border-color: rgb(var(--v-theme-primary));
}
</style>
