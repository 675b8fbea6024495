import { reactive } from 'vue'

import type { ApiError, Schemas } from '@/api/client'
import { useUi } from '@/app/ui'
import { createOutbox } from '@/parts/outbox'

import { type CellChange, cellKey } from './cells'

export interface Trouble {
  text: string
  unlikely: boolean
  /** Ways of writing it that would be understood. */
  offers?: string[]
  /** Somebody else wrote the cell meanwhile: what stands there, and the revision to save over it with. */
  clash?: { text: string; seen: number }
}

interface Options {
  /** What is typed into: what is not sent yet is kept in the browser under it. */
  name: string
  /** What the server holds, by cell. */
  saved: () => Map<string, Schemas['Trial']>
  /** Sends cells, all or none. */
  save: (cells: CellChange[]) => Promise<void>
  /** The unit a test's values are typed in. */
  unitOf: (test: string) => string
  /** Whether there is anything to send to yet. */
  ready: () => boolean
}

export type Typing = ReturnType<typeof createTyping>

/**
 * Cells being typed into one screen: an outbox of them, what was refused, and what can be taken back. Others may type
 * into the same screen: each cell is sent with the revision it was seen at.
 */
export function createTyping(o: Options) {
  const ui = useUi()
  const trouble = reactive(new Map<string, Trouble>())
  const undo = reactive<{ label: string; cells: CellChange[] }[]>([])
  const undone = reactive<{ label: string; cells: CellChange[] }[]>([])
  const revOf = (key: string) => o.saved().get(key)?.rev ?? 0
  const {
    waiting: typed,
    put: wait,
    drop: forget,
    later,
    close,
  } = createOutbox<CellChange>({
    name: o.name,
    keyOf: cellKey,
    send: o.save,
    ready: o.ready,
    held: (key) => trouble.has(key),
    refused: mark,
    // Typed on while it was being sent: what was sent is what was seen.
    putMeanwhile: (c) => ({ ...c, seen: revOf(cellKey(c)) }),
  })

  /** The cell as it is saved now, as a change that would bring it back. */
  function before(c: CellChange): CellChange {
    const key = cellKey(c)
    const waiting = typed.get(key)
    if (waiting && !trouble.has(key)) return { ...waiting, confirmed: true, seen: undefined }
    const t = o.saved().get(key)
    const base = { test: c.test, side: c.side, trial: c.trial }
    if (!t) return { ...base, text: '', status: '' }
    return {
      ...base,
      text: t.text,
      status: t.status,
      variant: t.variant,
      pain: t.pain,
      region: t.region,
      tingling: t.tingling,
      note: t.note,
      gaveOut: t.gaveOut as CellChange['gaveOut'],
      device: t.device,
      confirmed: true,
      unit: o.unitOf(c.test),
    }
  }

  /** Takes cells as typed; they are sent at once, and while something is on its way they gather for the next time. */
  function put(cells: CellChange[], label = '') {
    // Asked for first, so that it is on its way before anything is drawn.
    later(0)
    remember(cells, label)
    for (const c of cells) {
      const key = cellKey(c)
      trouble.delete(key)
      // A cell typed twice before it is sent was seen when it was typed first.
      wait({ unit: o.unitOf(c.test), ...c, seen: typed.get(key)?.seen ?? revOf(key) })
    }
  }

  /** What stands there now, so that it can be brought back: by undo, or, of what is being undone, by redo. */
  function remember(cells: CellChange[], label: string) {
    const list = label === 'undo' ? undone : undo
    list.push({ label, cells: cells.map(before) })
    if (list.length > 100) list.shift()
    if (label !== 'undo' && label !== 'redo') undone.length = 0
  }

  function takeBack() {
    const last = undo.pop()
    if (last) put(last.cells, 'undo')
  }
  function bringBack() {
    const last = undone.pop()
    if (last) put(last.cells, 'redo')
  }

  function resend(key: string, change: Partial<CellChange>) {
    const c = typed.get(key)
    if (!c) return
    trouble.delete(key)
    wait({ ...c, ...change })
    later(0)
  }
  const confirm = (key: string) => resend(key, { confirmed: true })
  /** Writes it the way that was offered. */
  const take = (key: string, text: string) => resend(key, { text })
  /** Saves over what somebody else wrote. */
  const keepMine = (key: string) => resend(key, { seen: trouble.get(key)?.clash?.seen ?? 0 })

  function drop(key: string) {
    forget(key)
    trouble.delete(key)
    if (trouble.size === 0) ui.setSave('idle')
  }

  /** Marks the cells that were refused; the rest of the batch goes again without them. */
  function mark(e: ApiError, batch: [string, CellChange][]) {
    let marked = 0
    for (const f of e.fields) {
      const at = /^cells\[(\d+)\]/.exec(f.field)
      const key = at ? batch[Number(at[1])]?.[0] : undefined
      if (key === undefined) continue
      trouble.set(key, {
        text: f.detail,
        unlikely: f.unlikely === true,
        ...(f.offers ? { offers: f.offers } : {}),
        ...(f.clash ? { clash: f.clash } : {}),
      })
      marked++
    }
    if (marked === 0) for (const [key] of batch) trouble.set(key, { text: e.message, unlikely: false })
  }

  /** The text and state of a cell as it is shown: typed over saved. */
  function shown(key: string): { text: string; status: string; pain: number; trouble: Trouble | undefined } {
    const t = typed.get(key)
    const s = o.saved().get(key)
    return {
      text: t ? (t.text ?? '') : (s?.text ?? ''),
      status: t ? (t.status ?? '') || (t.text ? 'done' : '') : (s?.status ?? ''),
      pain: (t ? t.pain : s?.pain) ?? 0,
      trouble: trouble.get(key),
    }
  }
  /** What stands in the cell's field. */
  function inCell(key: string): string {
    const c = shown(key)
    return c.status === 'stopped' || c.status === 'skipped' ? c.status : c.text
  }

  return {
    typed,
    trouble,
    undo,
    undone,
    put,
    takeBack,
    bringBack,
    confirm,
    take,
    keepMine,
    drop,
    later,
    close,
    shown,
    inCell,
  }
}
