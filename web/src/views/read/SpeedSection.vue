<script setup lang="ts">
import TermNote from '@/help/TermNote.vue'
import { toShown } from '@/parts/speed'
import type { Schemas } from '@/api/client'

const props = defineProps<{ speed: Schemas['Speed']; unit: 'mph' | 'm/s' }>()

const shown = (v: number | undefined) => (v === undefined ? '–' : `${toShown(v, props.unit).toFixed(1)} ${props.unit}`)
</script>

<template>
  <section>
    <h2>Club speed and <TermNote term="speedReserve">reserve</TermNote></h2>
    <p>{{ props.speed.goalSentence }}</p>
    <p>{{ props.speed.shareSentence }}</p>
    <div v-if="props.speed.driver !== undefined" class="bar" role="img" :aria-label="props.speed.shareSentence">
      <span
        v-if="props.speed.cruise !== undefined"
        class="cruise"
        :style="{ width: (props.speed.shareOfCeiling ?? 0) * 100 + '%' }"
        >course {{ shown(props.speed.cruise) }}</span
      >
      <span class="ceiling">ceiling {{ shown(props.speed.driver) }}</span>
    </div>
    <p v-if="props.speed.otherSide" class="small">Other side: {{ props.speed.otherSide.sentence }}</p>
    <p v-else class="small quiet">Other-side gap: not measured.</p>
    <p v-for="t in [props.speed.ladder, props.speed.stretch, props.speed.cold].filter(Boolean)" :key="t" class="small">
      {{ t }}
    </p>
    <p v-if="props.speed.pull" class="small">{{ props.speed.pull.sentence }}</p>
  </section>
</template>

<style scoped>
.bar {
  position: relative;
  height: 26px;
  background: rgb(var(--v-theme-band));
  font-size: var(--small);
  line-height: 26px;
}
.cruise {
  position: absolute;
  inset: 0 auto 0 0;
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-surface));
  padding-left: 8px;
}
.ceiling {
  position: absolute;
  right: 0;
  top: 26px;
}
.bar + p {
  margin-top: 30px;
}
</style>
