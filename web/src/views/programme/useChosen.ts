import { computed, nextTick, ref, watch, type Ref } from 'vue'

import type { Schemas } from '@/api/client'

import { itemsOf, type Item } from './grid'

/**
 * The item that is chosen in the sheet. It stays chosen while it is there, wherever it moves; where it was taken out or
 * became another, what stands in its place now is chosen, or the last of its session. `focus` puts the keyboard on an
 * item; after a change it is put back, unless it is elsewhere by then.
 */
export function useChosen(view: Ref<Schemas['ProgrammeView'] | undefined>, sheet: Ref<HTMLElement | undefined>) {
  const id = ref('')
  const items = computed(() => (view.value ? itemsOf(view.value.programme) : []))
  const item = computed<Item | undefined>(() => items.value.find((i) => i.id === id.value))

  function focus(which: string) {
    id.value = which
    void nextTick(() => sheet.value?.querySelector<HTMLElement>(`[data-id="${which}"]`)?.focus())
  }

  /** The item of the same session or home day the hand goes on to when one is taken out: the next, or the one before. */
  function neighbour(which: string): string | undefined {
    const of = items.value.find((i) => i.id === which)
    const session = of?.place.replace(/[^.]+$/, '')
    const list = items.value.filter((i) => session && i.place.startsWith(session))
    const at = list.findIndex((i) => i.id === which)
    return (list[at + 1] ?? list[at - 1])?.id
  }

  let place = ''
  watch(item, (now) => (place = now?.place ?? place))
  watch(
    () => view.value?.revision,
    (now, before) => {
      if (now === undefined || before === undefined || !id.value) return
      const session = place.replace(/[^.]+$/, '')
      const there =
        item.value ??
        items.value.find((i) => i.place === place) ??
        items.value.filter((i) => i.place.startsWith(session)).at(-1)
      id.value = there?.id ?? ''
      void nextTick(() => {
        if (there && (document.activeElement === document.body || document.activeElement === null)) focus(there.id)
      })
    },
  )
  return { id, item, focus, neighbour }
}
