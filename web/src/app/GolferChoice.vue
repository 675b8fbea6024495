<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { type ComponentPublicInstance, computed, nextTick, onMounted, ref, useTemplateRef } from 'vue'

import { useAthlete, useGolfers } from '@/api/queries'

/** The field of the switcher once somebody is in it. The server looks for golfers, however many there are. */
const props = defineProps<{ golferId: string; begun: string }>()
const emit = defineEmits<{ choose: [id: string | null] }>()

const typed = ref('')
const opened = ref(false)
const field = useTemplateRef<ComponentPublicInstance>('field')
// Somebody is in it already: it takes the focus before another key comes, and goes on with what they typed.
onMounted(async () => {
  const { begun } = props
  ;(field.value?.$el as HTMLElement).querySelector('input')?.focus()
  await nextTick()
  opened.value = true
  if (begun) typed.value = begun
})
const { data: golfer } = useAthlete(() => props.golferId)
/** What stands there already is not looked for. */
const looked = computed(() => (typed.value === golfer.value?.profile.name ? '' : typed.value.trim()))
const { data: found, isFetching } = useGolfers(refDebounced(looked, 150))
const items = computed(() => {
  const list = (found.value ?? []).map((g) => ({
    title: g.name,
    value: g.id,
    props: g.archived ? { subtitle: 'put away' } : {},
  }))
  const here = golfer.value
  if (here && !list.some((i) => i.value === here.id))
    list.unshift({ title: here.profile.name, value: here.id, props: {} })
  return list
})
</script>

<template>
  <v-autocomplete
    ref="field"
    v-model:search="typed"
    v-model:menu="opened"
    :model-value="props.golferId || null"
    :items="items"
    :loading="isFetching"
    no-filter
    placeholder="Golfer: type a name"
    aria-label="Golfer"
    single-line
    persistent-placeholder
    auto-select-first
    no-data-text="Nobody is called that"
    @update:model-value="(id: string | null) => emit('choose', id)"
  />
</template>
