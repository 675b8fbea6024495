<script setup lang="ts">
/** How much of a timed thing has gone by, 0 to 1. */
const props = defineProps<{ share: number }>()
</script>

<template>
  <div
    class="bar"
    role="progressbar"
    aria-label="Time gone"
    aria-valuemin="0"
    aria-valuemax="100"
    :aria-valuenow="Math.round(props.share * 100)"
  >
    <span :style="{ transform: `scaleX(${props.share.toFixed(3)})` }" />
  </div>
</template>

<style scoped>
.bar {
  height: 12px;
  border-radius: 6px;
  background: rgb(var(--v-theme-line));
  overflow: hidden;
}
.bar span {
  display: block;
  height: 100%;
  transform-origin: left;
  background: rgb(var(--v-theme-primary));
}
</style>
