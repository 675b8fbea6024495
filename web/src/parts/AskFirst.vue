<script setup lang="ts">
import { vFirst } from '@/keys/first'
import { LateDialog } from '@/parts/late'

/** A question before something that takes away: what goes, and what brings it back. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ title: string; verb: string; busy?: boolean; error?: string }>()
const emit = defineEmits<{ yes: [] }>()
</script>

<template>
  <LateDialog v-model="open" max-width="440">
    <form class="box" @submit.prevent="emit('yes')">
      <h2>{{ props.title }}</h2>
      <div><slot /></div>
      <p v-if="props.error" class="stop" role="alert">{{ props.error }}</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :loading="props.busy" v-first>{{ props.verb }}</v-btn>
        <v-btn @click="open = false">Leave it</v-btn>
      </div>
    </form>
  </LateDialog>
</template>
