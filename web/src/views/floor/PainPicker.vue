<script setup lang="ts">
import type { Pain } from './log'
import ZeroToTen from '@/parts/ZeroToTen.vue'

/** Where it hurts, how much, and whether it rises or is numb. */
const pain = defineModel<Pain>({ required: true })
const regions = [
  ['neck', 'Neck'],
  ['shoulder', 'Shoulder'],
  ['elbow', 'Elbow'],
  ['wrist-hand', 'Wrist or hand'],
  ['thoracic-spine', 'Upper back'],
  ['lumbar-spine', 'Lower back'],
  ['hip', 'Hip'],
  ['knee', 'Knee'],
  ['ankle-foot', 'Ankle or foot'],
] as const
const sides = [
  ['', 'Both or not known'],
  ['lead', 'Lead'],
  ['trail', 'Trail'],
] as const
function set(what: Partial<Pain>) {
  pain.value = { ...pain.value, ...what }
}
</script>

<template>
  <div class="pain">
    <div class="keys" role="group" aria-label="Region">
      <button
        v-for="[id, title] in regions"
        :key="id"
        type="button"
        class="key"
        :class="{ on: pain.region === id }"
        :aria-pressed="pain.region === id"
        @click="set({ region: id })"
      >
        {{ title }}
      </button>
    </div>
    <div class="keys" role="group" aria-label="Side">
      <button
        v-for="[id, title] in sides"
        :key="id"
        type="button"
        class="key"
        :class="{ on: (pain.side ?? '') === id }"
        :aria-pressed="(pain.side ?? '') === id"
        @click="set({ side: id })"
      >
        {{ title }}
      </button>
    </div>
    <ZeroToTen :model-value="pain.level" label="How much, 0 to 10" @update:model-value="set({ level: $event })" />
    <div class="keys">
      <label class="tick"
        ><input
          type="checkbox"
          :checked="pain.rising"
          @change="set({ rising: ($event.target as HTMLInputElement).checked })"
        />
        It rises</label
      >
      <label class="tick"
        ><input
          type="checkbox"
          :checked="pain.numb"
          @change="set({ numb: ($event.target as HTMLInputElement).checked })"
        />
        Numb, pins and needles</label
      >
    </div>
  </div>
</template>

<style scoped>
.pain {
  display: grid;
  gap: 8px;
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
  min-height: 44px;
  padding: 2px 8px;
  border: 1px solid rgb(var(--v-theme-line));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
}
.key.on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-background));
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding-right: 10px;
  font-size: 18px;
}
.tick input {
  width: 22px;
  height: 22px;
}
</style>
