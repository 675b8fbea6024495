<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import HeldInput from '@/parts/HeldInput.vue'

/** What the screen was done under, in one line that opens. */
const props = defineProps<{ screen: Schemas['Screen']; sets: Schemas['TestSet'][]; today: string }>()
const emit = defineEmits<{ change: [c: Schemas['Circumstances']] }>()

const open = ref(false)
const c = computed(() => props.screen.circumstances)
const text = (event: Event) => (event.target as HTMLInputElement).value
const summary = computed(() =>
  [
    c.value.intent === 'full' ? 'full intent' : c.value.intent === 'held-back' ? 'held back' : '',
    c.value.lastLesson ? `last lesson ${c.value.lastLesson}` : '',
    c.value.clubChange ? `club: ${c.value.clubChange}` : '',
    c.value.tester ? `tested by ${c.value.tester}` : '',
    c.value.place,
    c.value.floor ? `on ${c.value.floor}` : '',
  ]
    .filter(Boolean)
    .join(' · '),
)
</script>

<template>
  <div class="head small">
    <label
      >Battery
      <select :value="c.set" aria-label="Battery" @change="emit('change', { set: text($event) })">
        <option v-if="!props.sets.some((s) => s.id === c.set)" :value="c.set">
          {{ c.set ? c.set : props.sets[0]?.name }}
        </option>
        <option v-for="s in props.sets" :key="s.id" :value="s.id" :title="s.note">{{ s.name }}</option>
      </select>
    </label>
    <label class="before"
      >What came before today
      <HeldInput
        :value="c.before"
        maxlength="500"
        placeholder="desk, work shift, travel, training …"
        @change="emit('change', { before: $event })"
      />
    </label>
    <button class="plain more" :aria-expanded="open" @click="open = !open">
      {{ open ? 'Fold' : summary || 'Lesson, club, intent, place …' }}
    </button>
    <div v-if="open" class="grid">
      <label
        >Last lesson<HeldInput
          type="date"
          :value="c.lastLesson"
          :max="props.today"
          @change="emit('change', { lastLesson: $event })"
      /></label>
      <label
        >Club changed since<HeldInput
          :value="c.clubChange"
          maxlength="500"
          placeholder="new shaft, lighter head …"
          @change="emit('change', { clubChange: $event })"
      /></label>
      <label
        >Intent of the swings
        <select
          :value="c.intent"
          @change="emit('change', { intent: text($event) as Schemas['Circumstances']['intent'] })"
        >
          <option value="">not said</option>
          <option value="full">full</option>
          <option value="held-back">held back</option>
        </select>
      </label>
      <label
        >Tested by<HeldInput :value="c.tester" maxlength="500" @change="emit('change', { tester: $event })"
      /></label>
      <label
        >Place<HeldInput
          :value="c.place"
          maxlength="500"
          placeholder="barn, range bay 4 …"
          @change="emit('change', { place: $event })"
      /></label>
      <label
        >Floor<HeldInput
          :value="c.floor"
          maxlength="500"
          placeholder="rubber, turf …"
          @change="emit('change', { floor: $event })"
      /></label>
    </div>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  padding-bottom: 4px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.before {
  flex: 1 1 300px;
}
.before input {
  flex: 1;
}
input,
select {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 0;
  border-bottom: 1px solid rgb(var(--v-theme-line));
  padding: 2px 2px;
}
select {
  background: rgb(var(--v-theme-surface));
}
.more {
  text-decoration: underline;
  text-underline-offset: 3px;
  max-width: 360px;
}
.grid {
  flex-basis: 100%;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: 6px 20px;
  padding: 6px 0 8px;
}
.grid label > input {
  flex: 1;
  min-width: 90px;
}
</style>
