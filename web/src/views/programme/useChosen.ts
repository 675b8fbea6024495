import { computed, nextTick, ref, watch, type Ref } from 'vue'

import type { Schemas } from '@/api/client'

import { itemsOf, type Item } from './grid'

/**
 * What is chosen in the sheet: an item, with others beside it where several are, or a session or week by its id. An item
 * stays chosen while it is there, wherever it moves; where it was taken out or became another, what stands in its place
 * now is chosen, or the last of its session. `focus` puts the keyboard on an item; after a change it is put back, unless
 * it is elsewhere by then.
 */
export function useChosen(view: Ref<Schemas['ProgrammeView'] | undefined>, sheet: Ref<HTMLElement | undefined>) {
  const id = ref('')
  /** Every item that is chosen, the one above too, where there are several. */
  const all = ref<string[]>([])
  const items = computed(() => (view.value ? itemsOf(view.value.programme) : []))
  const item = computed<Item | undefined>(() => items.value.find((i) => i.id === id.value))
  const weeks = computed(() => view.value?.programme.blocks.flatMap((b) => b.weeks) ?? [])
  const session = computed(() => weeks.value.flatMap((w) => w.sessions).find((s) => s.id === id.value))
  const week = computed(() => weeks.value.find((w) => w.id === id.value))
  watch(id, (now) => {
    if (!all.value.includes(now)) all.value = []
  })

  function focus(which: string) {
    id.value = which
    void nextTick(() => sheet.value?.querySelector<HTMLElement>(`[data-id="${which}"]`)?.focus())
  }

  /** The item of the same session or home day the hand goes on to when one is taken out: the next, or the one before. */
  function neighbour(which: string): string | undefined {
    const of = items.value.find((i) => i.id === which)
    const place = of?.place.replace(/[^.]+$/, '')
    const list = items.value.filter((i) => place && i.place.startsWith(place))
    const at = list.findIndex((i) => i.id === which)
    return (list[at + 1] ?? list[at - 1])?.id
  }

  let place = ''
  watch(item, (now) => (place = now?.place ?? place))
  watch(
    () => view.value?.revision,
    (now, before) => {
      if (now === undefined || before === undefined || !id.value) return
      all.value = all.value.filter((x) => items.value.some((i) => i.id === x))
      if (session.value || week.value) return
      const where = place.replace(/[^.]+$/, '')
      const there =
        item.value ??
        items.value.find((i) => i.place === place) ??
        items.value.filter((i) => i.place.startsWith(where)).at(-1)
      id.value = there?.id ?? ''
      void nextTick(() => {
        if (there && (document.activeElement === document.body || document.activeElement === null)) focus(there.id)
      })
    },
  )
  return { id, all, item, session, week, focus, neighbour }
}
