<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

import { itemsOf } from './grid'

/** Finds an exercise over the block and puts another in its place. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ view: Schemas['ProgrammeView']; instead: string }>()
const emit = defineEmits<{ edit: [edit: Schemas['Edit']] }>()
const find = ref('')
const by = ref('')
const note = ref('')
watch(open, (now) => {
  if (!now) return
  find.value = props.instead
  by.value = ''
  note.value = ''
})
watch(find, () => (by.value = ''))
const items = computed(() => itemsOf(props.view.programme))
const there = computed(() => {
  const names = new Map(items.value.map((i) => [i.exercise, i.name]))
  return [...names].map(([value, title]) => ({ value, title })).sort((a, b) => a.title.localeCompare(b.title))
})
const places = computed(() => items.value.filter((i) => i.exercise === find.value))
const locked = computed(() => places.value.filter((i) => i.locked).length)
const at = computed(() => places.value[0]?.id ?? '')
const { data: alternatives } = useQuery({
  queryKey: keys.alternatives(() => props.view.id, at, find),
  queryFn: () =>
    must(
      api.GET('/programmes/{programmeId}/alternatives', {
        params: { path: { programmeId: props.view.id }, query: { at: at.value } },
      }),
    ),
  enabled: () => open.value && at.value !== '',
})
const others = computed(() => alternatives.value?.filter((a) => !a.current) ?? [])
const held = computed(() =>
  others.value.find((a) => a.exercise === by.value && a.rule && !['KIT', 'LEVEL'].includes(a.rule)),
)
function replace() {
  emit('edit', {
    kind: 'replace',
    at: '',
    instead: find.value,
    exercise: by.value,
    ...(note.value.trim() ? { note: note.value.trim() } : {}),
  })
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="560">
    <form class="box" @submit.prevent="replace">
      <h2>Find and replace</h2>
      <v-autocomplete v-model="find" label="Find" :items="there" />
      <p v-if="find" class="small">
        It stands in {{ places.length }} {{ places.length === 1 ? 'place' : 'places'
        }}{{ locked ? `, ${locked} of them locked: they stay` : '' }}.
      </p>
      <v-autocomplete
        v-model="by"
        label="Put in its place, best first"
        :disabled="!find"
        :items="
          others.map((a) => ({ value: a.exercise, title: a.blocked ? `${a.name} — held back: ${a.blocked}` : a.name }))
        "
      />
      <v-text-field
        v-model="note"
        :label="held ? 'Reason: needed, a limit holds it back' : 'Reason, if there is one to tell'"
      />
      <div class="row">
        <v-btn
          type="submit"
          variant="flat"
          color="action"
          :disabled="!by || places.length === locked || (!!held && !note.trim())"
          >Replace</v-btn
        >
        <v-btn @click="open = false">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>
