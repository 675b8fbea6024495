<script setup lang="ts">
import { computed, useId } from 'vue'

/**
 * One of a few, chosen from the browser's own list: a phone shows it its own way, letters find in it, and no page waits
 * for it. It looks like the fields beside it. What is said below a choice is its subtitle.
 */
interface Item {
  title?: string | undefined
  value: unknown
  props?: { subtitle?: string }
}
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  modelValue?: unknown
  label?: string
  items: readonly (Item | string | number)[]
  errorMessages?: string | undefined
  /** What stands there while nothing is chosen. */
  placeholder?: string | undefined
}>()
const emit = defineEmits<{
  // What is chosen is one of the items: of what type they are, whoever gives them knows.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  'update:modelValue': [value: any]
}>()
const id = useId()
const list = computed(() => props.items.map((i): Item => (typeof i === 'object' ? i : { title: String(i), value: i })))
const at = computed(() => list.value.findIndex((i) => i.value === props.modelValue))
const below = computed(() => props.errorMessages || list.value[at.value]?.props?.subtitle)
function take(event: Event) {
  const chosen = list.value[Number((event.target as HTMLSelectElement).value)]
  if (chosen) emit('update:modelValue', chosen.value)
}
</script>

<template>
  <div class="select-field" :class="[$attrs.class, { wrong: props.errorMessages }]">
    <select
      :id="id"
      v-bind="{ ...$attrs, class: undefined }"
      :value="at"
      :aria-invalid="props.errorMessages ? true : undefined"
      :aria-describedby="below ? `${id}-below` : undefined"
      @change="take"
    >
      <option v-if="at < 0" :value="-1" disabled hidden>{{ props.placeholder ?? '' }}</option>
      <option v-for="(i, n) in list" :key="n" :value="n">{{ i.title }}</option>
    </select>
    <label v-if="props.label" :for="id" class="visually-hidden">{{ props.label }}</label>
    <!-- The line around it, with its name on it. -->
    <fieldset aria-hidden="true">
      <legend v-if="props.label">{{ props.label }}</legend>
    </fieldset>
    <p v-if="below" :id="`${id}-below`" class="small">{{ below }}</p>
  </div>
</template>

<style scoped>
.select-field {
  position: relative;
  min-width: 0;
}
select {
  width: 100%;
  min-height: 40px;
  padding: 6px 8px 6px 12px;
  border: 0;
  border-radius: 4px;
  background: transparent;
  color: inherit;
  font: inherit;
  text-overflow: ellipsis;
}
option {
  background: rgb(var(--v-theme-surface));
}
fieldset {
  position: absolute;
  inset: -9px 0 auto;
  height: calc(var(--select-height, 40px) + 9px);
  min-width: 0;
  margin: 0;
  padding: 0 7px;
  border: 1px solid rgba(var(--v-theme-on-surface), 0.38);
  border-radius: 4px;
  pointer-events: none;
}
fieldset:not(:has(legend)) {
  inset: 0 0 auto;
  height: var(--select-height, 40px);
}
legend {
  max-width: 100%;
  padding: 0 4px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: var(--small);
  line-height: 18px;
}
select:hover ~ fieldset {
  border-color: currentColor;
}
select:disabled {
  opacity: 0.5;
}
p {
  margin: 4px 12px 0;
}
.wrong fieldset {
  border-color: rgb(var(--v-theme-error));
}
.wrong :is(legend, p) {
  color: rgb(var(--v-theme-error));
}
@media (pointer: coarse) {
  .select-field {
    --select-height: 44px;
  }
  select {
    min-height: 44px;
  }
}
</style>
