<script setup lang="ts">
defineProps<{ id: string }>()
</script>

<template>
  <div class="sheet"></div>
</template>
