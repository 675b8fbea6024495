<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'

import LateMenu from '@/parts/LateMenu.vue'

/** Actions beside each other; on a phone behind one button, so that the work keeps the room. */
const props = withDefaults(defineProps<{ label?: string }>(), { label: 'More' })
const narrow = useMediaQuery('(max-width: 700px)')
</script>

<template>
  <LateMenu v-if="narrow">
    <template #activator="{ props: menu }"
      ><v-btn v-bind="menu" variant="outlined">{{ props.label }}</v-btn></template
    >
    <div class="box folded"><slot /></div>
  </LateMenu>
  <div v-else class="row"><slot /></div>
</template>

<style scoped>
.folded {
  padding: 12px;
}
</style>
