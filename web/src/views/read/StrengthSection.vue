<script setup lang="ts">
import type { Schemas } from '@/api/client'

const props = defineProps<{ strength: Schemas['Strength'] }>()

/** Where a predicted single stands between the lowest and the highest, a little room on both sides. */
function place(kg: number): string {
  const all = [...props.strength.equations.map((e) => e.oneRM), props.strength.oneRM]
  const low = Math.min(...all)
  const span = Math.max(1, Math.max(...all) - low)
  return `${5 + ((kg - low) / span) * 90}%`
}
</script>

<template>
  <section>
    <h2>Predicted single</h2>
    <p class="small">{{ props.strength.sentence }}</p>
    <div class="equations small" role="img" :aria-label="props.strength.sentence">
      <div v-for="e in props.strength.equations" :key="e.name" :title="e.source">
        <span>{{ e.name }}</span>
        <span class="track"
          ><i :style="{ left: place(e.oneRM) }" /><i class="table" :style="{ left: place(props.strength.oneRM) }"
        /></span>
        <span class="num">{{ e.oneRM.toFixed(1) }} kg</span>
      </div>
    </div>
    <p class="small quiet">
      Mark: the equation; line: the printed table that sets loads.
      {{ props.strength.valid ? '' : 'More than ten effective repetitions: none of them is advised for this set.' }}
    </p>
  </section>
</template>

<style scoped>
.equations > div {
  display: grid;
  grid-template-columns: 74px 1fr 70px;
  gap: 8px;
  align-items: center;
}
.equations .track {
  position: relative;
  height: 18px;
  border-bottom: 1px dotted rgba(var(--v-theme-on-surface), 0.3);
}
.equations i {
  position: absolute;
  top: 6px;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  background: rgb(var(--v-theme-primary));
  transform: translateX(-50%);
}
.equations i.table {
  top: 0;
  width: 0;
  height: 18px;
  border-radius: 0;
  border-left: 2px solid rgb(var(--v-theme-secondary));
}
</style>
