<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { vFirst } from '@/keys/first'

import { useEditBattery } from './useEditBattery'

/** Makes or changes a named battery: which tests, in which order. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ set?: Schemas['TestSet']; tests: Schemas['Test'][] }>()
const edit = useEditBattery()
const name = ref('')
const chosen = ref<string[]>([])
const id = ref('')
watch(open, (is) => {
  if (!is) return
  edit.reset()
  id.value = props.set?.own ? props.set.id : ''
  name.value = props.set?.own ? props.set.name : ''
  chosen.value = [...(props.set?.tests ?? [])]
})
const tests = computed(() => props.tests.filter((t) => t.rule !== 'derived'))
const byId = computed(() => new Map(tests.value.map((t) => [t.id, t])))
const minutes = computed(() => Math.round(chosen.value.reduce((n, t) => n + (byId.value.get(t)?.minutes ?? 1), 0)))
const left = computed(() => tests.value.filter((t) => !chosen.value.includes(t.id)))
function move(i: number, by: number) {
  const list = [...chosen.value]
  const [x] = list.splice(i, 1)
  if (x) list.splice(i + by, 0, x)
  chosen.value = list
}
async function save() {
  const ok = await edit
    .mutateAsync({ set: { id: id.value, name: name.value, tests: chosen.value } })
    .catch(() => undefined)
  if (ok) open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="620">
    <form class="box" @submit.prevent="save">
      <h2>{{ id ? 'Change this battery' : 'A battery of your own' }}</h2>
      <v-text-field v-model="name" label="Name" maxlength="60" v-first />
      <p class="small quiet">{{ chosen.length }} tests, about {{ minutes }} minutes for one golfer, in this order:</p>
      <ol class="chosen small">
        <li v-for="(t, i) in chosen" :key="t">
          <span>{{ byId.get(t)?.name ?? t }}</span>
          <v-btn size="small" :disabled="i === 0" :aria-label="`${byId.get(t)?.name} earlier`" @click="move(i, -1)"
            >↑</v-btn
          >
          <v-btn
            size="small"
            :disabled="i === chosen.length - 1"
            :aria-label="`${byId.get(t)?.name} later`"
            @click="move(i, 1)"
            >↓</v-btn
          >
          <v-btn size="small" @click="chosen.splice(i, 1)">Leave out</v-btn>
        </li>
      </ol>
      <v-autocomplete
        :model-value="null"
        label="Add a test: type its name"
        :items="left.map((t) => ({ title: t.name, value: t.id, props: { subtitle: t.group } }))"
        @update:model-value="(v: string | null) => v && chosen.push(v)"
      />
      <p v-if="edit.error.value" class="stop" role="alert">{{ edit.error.value.message }}</p>
      <div class="row">
        <v-btn
          type="submit"
          variant="flat"
          color="action"
          :loading="edit.isPending.value"
          :disabled="!name.trim() || chosen.length === 0"
          >Save this battery</v-btn
        >
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.chosen {
  max-height: 300px;
  overflow: auto;
  padding-left: 26px;
  margin: 0;
}
.chosen li span {
  display: inline-block;
  min-width: 260px;
}
</style>
