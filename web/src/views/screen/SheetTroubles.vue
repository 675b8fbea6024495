<script setup lang="ts">
import { computed } from 'vue'

import type { Typing } from './typing'

/** What was refused in a sheet, each with what can be done about it. */
const props = defineProps<{
  typing: Pick<Typing, 'trouble' | 'confirm' | 'take' | 'keepMine' | 'drop'>
  who?: string
}>()
const list = computed(() => [...props.typing.trouble.entries()])
</script>

<template>
  <div v-if="list.length" class="troubles" role="alert">
    <p v-for="[key, t] in list" :key="key" class="small" :class="t.unlikely ? 'attention' : 'stop'">
      <strong v-if="props.who">{{ props.who }}: </strong>{{ t.text }}
      <v-btn v-if="t.unlikely" size="small" color="action" @click="props.typing.confirm(key)">Keep it</v-btn>
      <v-btn v-for="o in t.offers ?? []" :key="o" size="small" variant="outlined" @click="props.typing.take(key, o)">{{
        o
      }}</v-btn>
      <template v-if="t.clash">
        <v-btn size="small" color="action" @click="props.typing.keepMine(key)">Keep mine</v-btn>
        <v-btn size="small" @click="props.typing.drop(key)">Take theirs</v-btn>
      </template>
      <v-btn v-else size="small" @click="props.typing.drop(key)">Put back</v-btn>
    </p>
  </div>
</template>

<style scoped>
.troubles p {
  margin: 2px 0;
}
</style>
