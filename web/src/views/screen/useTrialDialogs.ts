import { computed, shallowRef } from 'vue'

import type { Schemas } from '@/api/client'

import type { Pain } from './PainDialog.vue'

interface Options<At> {
  /** The text of a cell, typed or saved. */
  textAt: (at: At) => string
  write: (at: At, change: Partial<Schemas['CellChange']>) => void
  /** Gives a value over as if it had been typed. */
  give: (at: At, text: string) => void
  /** Where typing goes on after a cell. */
  next: (at: At) => At | undefined
  focus: (at: At) => void
}

/**
 * What is asked about a trial in a dialog: pain, why it was skipped, a value of several parts. Afterwards typing goes on.
 */
export function useTrialDialogs<At>(o: Options<At>) {
  const pain = shallowRef<At>()
  const skip = shallowRef<At>()
  const fields = shallowRef<At>()
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
  function saveFields(text: string) {
    if (fields.value === undefined) return
    o.give(fields.value, text)
    resume = o.next(fields.value) ?? fields.value
    fields.value = undefined
  }
  return {
    fieldsOpen: computed(() => fields.value !== undefined),
    /** What stands in the cell whose parts are set. */
    fieldsText: computed(() => (fields.value === undefined ? '' : o.textAt(fields.value))),
    askFields: (at: At) => (fields.value = resume = at),
    saveFields,
    painOpen: computed(() => pain.value !== undefined),
    skipOpen: computed(() => skip.value !== undefined),
    askPain: (at: At) => (pain.value = resume = at),
    askSkip: (at: At) => (skip.value = resume = at),
    savePain,
    saveSkip,
    close() {
      pain.value = undefined
      skip.value = undefined
      fields.value = undefined
    },
    /** Puts the keyboard back where typing goes on, once the dialog is gone. */
    goOn() {
      if (resume !== undefined) o.focus(resume)
    },
  }
}
