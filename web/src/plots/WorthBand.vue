<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { toShown } from '@/parts/speed'

/** What a leader could be worth in club speed: a band on a scale that begins at nothing. */
const props = defineProps<{ worth: NonNullable<Schemas['Standing']['worth']>; unit: 'mph' | 'm/s' }>()

const low = computed(() => toShown(props.worth.low, props.unit))
const high = computed(() => toShown(props.worth.high, props.unit))
/** The scale ends at a round number beyond the band. */
const end = computed(() => Math.max(2, Math.ceil((high.value * 1.1) / 2) * 2))
const at = (v: number) => `${(100 * v) / end.value}%`
</script>

<template>
  <figure class="worth" role="img" :aria-label="`${low} to ${high} ${props.unit} on a scale from 0 to ${end}`">
    <div class="scale"><i :style="{ left: at(low), width: at(high - low) }" /></div>
    <figcaption class="small quiet num">
      <span>0</span><span>{{ end }} {{ props.unit }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.worth {
  margin: 4px 0 8px;
  max-width: 320px;
}
.scale {
  position: relative;
  height: 14px;
  background: rgb(var(--v-theme-band));
  border-left: 2px solid rgb(var(--v-theme-primary));
}
.scale i {
  position: absolute;
  top: 3px;
  bottom: 3px;
  min-width: 3px;
  background: repeating-linear-gradient(115deg, rgb(var(--v-theme-primary)) 0 3px, transparent 3px 6px);
  outline: 1px solid rgb(var(--v-theme-primary));
}
figcaption {
  display: flex;
  justify-content: space-between;
}
</style>
