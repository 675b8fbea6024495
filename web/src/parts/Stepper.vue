<script setup lang="ts">
/** A number that is set with the thumb: less, the number, more. It may be typed too. */
const value = defineModel<number | undefined>({ required: true })
const props = defineProps<{
  label: string
  unit?: string
  step: number
  min?: number
  max?: number
  planned?: number
}>()

const round = (v: number) => Math.round(v * 100) / 100
function by(d: number) {
  const from = value.value ?? props.planned ?? 0
  value.value = round(Math.min(props.max ?? 999, Math.max(props.min ?? 0, from + d * props.step)))
}
function typed(e: Event) {
  const text = (e.target as HTMLInputElement).value.replace(',', '.').trim()
  if (text === '') value.value = undefined
  else if (Number.isFinite(Number(text))) value.value = Number(text)
}
</script>

<template>
  <div class="stepper" role="group" :aria-label="props.label">
    <span class="label">{{ props.label }}</span>
    <div class="line">
      <button type="button" class="key" :aria-label="`Less ${props.label.toLowerCase()}`" @click="by(-1)">−</button>
      <label class="mid">
        <input
          :value="value ?? ''"
          inputmode="decimal"
          :aria-label="props.label"
          :placeholder="props.planned === undefined ? '–' : String(props.planned)"
          class="number num"
          @change="typed"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <span v-if="props.unit" class="unit">{{ props.unit }}</span>
      </label>
      <button type="button" class="key" :aria-label="`More ${props.label.toLowerCase()}`" @click="by(1)">+</button>
    </div>
  </div>
</template>

<style scoped>
.stepper {
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-width: 0;
}
.label {
  font-size: 18px;
  color: rgba(var(--v-theme-on-surface), 0.76);
}
.line {
  display: grid;
  grid-template-columns: 52px 1fr 52px;
  align-items: stretch;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
}
.key {
  font: inherit;
  font-size: 28px;
  line-height: 1;
  min-height: 56px;
  border: 0;
  background: rgb(var(--v-theme-surface-variant));
  color: inherit;
  cursor: pointer;
  touch-action: manipulation;
}
.mid {
  display: flex;
  align-items: baseline;
  justify-content: center;
  gap: 4px;
  min-width: 0;
}
.number {
  font: inherit;
  font-size: 30px;
  font-weight: 650;
  width: 3.4ch;
  min-width: 0;
  flex: 1;
  text-align: center;
  border: 0;
  background: transparent;
  color: inherit;
  align-self: center;
}
.unit {
  font-size: 18px;
  align-self: center;
  padding-right: 6px;
}
</style>
