<script setup lang="ts">
defineProps<{ title: string }>()
</script>

<template>
  <div class="gate">
    <div class="brand"><img src="/dunnock.svg" alt="" width="44" height="44" /><strong>Dunnock</strong></div>
    <h1>{{ title }}</h1>
    <slot />
  </div>
</template>

<style scoped>
.gate {
  width: min(380px, 92vw);
  margin: 12vh auto 0;
  display: grid;
  gap: 18px;
}
.brand {
  display: flex;
  gap: 12px;
  align-items: center;
  font-size: 1.5rem;
}
</style>
