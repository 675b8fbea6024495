import { computed, ref } from 'vue'

/** How many golfers are offered at once: more is looked for by name. */
export const FEW = 40

interface Named {
  id: string
  name: string
}

/**
 * Of many golfers those that are offered to be chosen: those who are chosen already, and of the others the first whose
 * name holds what is typed. However many there are, a page draws a few.
 */
export function useFew<T extends Named>(all: () => T[], chosen: () => readonly string[]) {
  const text = ref('')
  const found = computed(() => {
    const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
    return words.length ? all().filter((g) => words.every((w) => g.name.toLowerCase().includes(w))) : all()
  })
  const shown = computed(() => {
    if (all().length <= FEW) return all()
    const has = new Set(chosen())
    return [...all().filter((g) => has.has(g.id)), ...found.value.filter((g) => !has.has(g.id)).slice(0, FEW)]
  })
  /** How many are found beside those that are shown. */
  const more = computed(() => {
    const seen = new Set(shown.value.map((g) => g.id))
    return found.value.filter((g) => !seen.has(g.id)).length
  })
  const many = computed(() => all().length > FEW)
  return { text, shown, more, many }
}
