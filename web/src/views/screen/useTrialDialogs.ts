import { computed, shallowRef } from 'vue'

import type { Schemas } from '@/api/client'

import type { Pain } from './PainDialog.vue'

interface Options<At> {
  /** The text of a cell, typed or saved. */
  textAt: (at: At) => string
  write: (at: At, change: Partial<Schemas['CellChange']>) => void
  /** Where typing goes on after a cell. */
  next: (at: At) => At | undefined
  focus: (at: At) => void
}

/** What is asked about a trial beside its value: pain, and why it was skipped. Afterwards typing goes on. */
export function useTrialDialogs<At>(o: Options<At>) {
  const pain = shallowRef<At>()
  const skip = shallowRef<At>()
  let resume: At | undefined

  function savePain(p: Pain, stops: boolean) {
    if (pain.value === undefined) return
    const text = o.textAt(pain.value)
    o.write(pain.value, { text: stops ? '' : text, status: stops || !text ? 'stopped' : 'done', ...p })
    resume = o.next(pain.value) ?? pain.value
    pain.value = undefined
  }
  function saveSkip(note: string) {
    if (skip.value === undefined) return
    o.write(skip.value, { status: 'skipped', note })
    resume = o.next(skip.value) ?? skip.value
    skip.value = undefined
  }
  return {
    painOpen: computed(() => pain.value !== undefined),
    skipOpen: computed(() => skip.value !== undefined),
    askPain: (at: At) => (pain.value = resume = at),
    askSkip: (at: At) => (skip.value = resume = at),
    savePain,
    saveSkip,
    close() {
      pain.value = undefined
      skip.value = undefined
    },
    /** Puts the keyboard back where typing goes on, once the dialog is gone. */
    goOn() {
      if (resume !== undefined) o.focus(resume)
    },
  }
}
