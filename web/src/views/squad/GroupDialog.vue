<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { vFirst } from '@/keys/first'
import { count } from '@/parts/words'

import type { SquadRow } from './rows'

/** Puts golfers into a group or takes them out of one. A group is there while somebody is in it. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ golfers: SquadRow[]; groups: string[] }>()
const emit = defineEmits<{ put: [name: string, within: boolean] }>()
const name = ref('')
watch(open, (now) => now && (name.value = ''))
const tidy = computed(() => name.value.trim())
const within = computed(() => props.golfers.filter((g) => g.groups.includes(tidy.value)).length)
</script>

<template>
  <v-dialog v-model="open" max-width="420">
    <form class="box" @submit.prevent="emit('put', tidy, true)">
      <h2>{{ count(props.golfers.length, 'golfer') }} and a group</h2>
      <v-combobox v-model="name" :items="props.groups" label="Group" maxlength="40" v-first hide-details />
      <p v-if="tidy" class="small quiet">{{ within }} of them are in it.</p>
      <div class="row">
        <v-btn type="submit" variant="flat" color="action" :disabled="!tidy || within === props.golfers.length"
          >Put in</v-btn
        >
        <v-btn :disabled="within === 0" @click="emit('put', tidy, false)">Take out</v-btn>
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
