<script setup lang="ts">
defineProps<{ title: string; text?: string }>()
</script>

<template>
  <section class="empty">
    <h2>{{ title }}</h2>
    <p v-if="text" class="quiet">{{ text }}</p>
    <div class="row"><slot /></div>
  </section>
</template>

<style scoped>
.empty {
  max-width: 560px;
  margin: 48px auto;
  text-align: left;
}
</style>
