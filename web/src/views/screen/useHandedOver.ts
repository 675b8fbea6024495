import { shallowRef, watch } from 'vue'

/**
 * The cell that was given over last. Where it turns out that its value has to be confirmed, and nothing is being typed
 * elsewhere meanwhile, the focus goes back to it: Enter again keeps it.
 */
export function useHandedOver<At>(asks: (at: At) => boolean, focus: (at: At) => void) {
  const last = shallowRef<At>()
  watch(
    () => last.value !== undefined && asks(last.value),
    (asked) => {
      if (!asked || last.value === undefined) return
      const active = document.activeElement
      if (!(active instanceof HTMLInputElement) || active.dataset.cell === undefined) return
      if (active.dataset.typing === undefined) focus(last.value)
    },
  )
  return (at: At) => (last.value = at)
}
