<script setup lang="ts">
import { type Component, ref, shallowRef } from 'vue'

/** A menu behind a button that is fetched when the button is first pressed. */
defineOptions({ inheritAttrs: false })
const menu = shallowRef<Component>()
const open = ref(false)
async function want() {
  menu.value ??= (await import('vuetify/components/VMenu')).VMenu
  open.value = true
}
const closed = { onClick: want, 'aria-haspopup': 'menu', 'aria-expanded': 'false' }
</script>

<template>
  <component :is="menu" v-if="menu" v-bind="$attrs" v-model="open">
    <template #activator="{ props: button }"><slot name="activator" :props="button" /></template>
    <slot />
  </component>
  <slot v-else name="activator" :props="closed" />
</template>
