<script setup lang="ts">
/** One question with its answers as large keys: one tap each. */
const value = defineModel<string | undefined>({ required: true })
const props = defineProps<{ label: string; choices: { value: string; title: string }[] }>()
</script>

<template>
  <fieldset class="choice">
    <legend>{{ props.label }}</legend>
    <div class="keys">
      <button
        v-for="c in props.choices"
        :key="c.value"
        type="button"
        class="key"
        :class="{ on: value === c.value }"
        :aria-pressed="value === c.value"
        @click="value = c.value"
      >
        {{ c.title }}
      </button>
    </div>
  </fieldset>
</template>

<style scoped>
.choice {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
legend {
  font-size: 18px;
  font-weight: 650;
  padding: 0 0 2px;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.key {
  font: inherit;
  font-size: 18px;
  flex: 1 1 auto;
  min-height: 48px;
  padding: 4px 10px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
  cursor: pointer;
  touch-action: manipulation;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
  border-color: rgb(var(--v-theme-primary));
}
</style>
