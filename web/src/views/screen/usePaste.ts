import { ref } from 'vue'

import { api, must, type Schemas } from '@/api/client'

import { type CellChange, layPaste, type Line, looksLikeTrialsFile } from './cells'
import type { Spot } from './sheetWalk'

/** Words that stand in cells of numbers; any other is a label. */
const IN_CELLS = /\b(stopped|skipped|kg|lbs?|cm|mm|in|mph|deg|ms|reps|rir)\b/gi

interface Options {
  screenId: string
  lines: () => Line[]
  put: (cells: CellChange[]) => void
  /** A file of trials with a header of its own. */
  file: (text: string) => void
}

/**
 * What is pasted into a cell of the sheet: numbers alone are laid over it from there; a block with labels is laid
 * against the tests by name, and shown before it counts.
 */
export function usePaste(o: Options) {
  const trouble = ref('')
  const laid = ref<Schemas['LaidPaste']>()

  async function paste(text: string, at: Spot) {
    trouble.value = ''
    if (/\p{L}{2}/u.test(text.replace(IN_CELLS, ''))) {
      try {
        const answer = await must(
          api.POST('/screens/{screenId}/paste', { params: { path: { screenId: o.screenId } }, body: { text } }),
        )
        if (answer.labelled) {
          laid.value = answer
          return
        }
      } catch (e) {
        trouble.value = (e as Error).message
        return
      }
    }
    const over = layPaste(text, o.lines(), at)
    if ('error' in over) trouble.value = over.error
    else o.put(over.cells)
  }

  /** Takes a paste that is more than one cell. */
  function onPaste(event: ClipboardEvent, at: Spot) {
    const text = event.clipboardData?.getData('text/plain') ?? ''
    const file = looksLikeTrialsFile(text)
    if (!file && !/[\t\n]/.test(text.trim())) return
    event.preventDefault()
    if (file) o.file(text)
    else void paste(text, at)
  }
  return { trouble, laid, onPaste }
}
