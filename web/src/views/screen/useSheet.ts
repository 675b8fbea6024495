import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { useForget, useSession } from '@/api/queries'
import { useUi } from '@/app/ui'

import { type CellChange, keyOf, type Test } from './cells'

export interface Trouble {
  text: string
  unlikely: boolean
}

/**
 * One screen being typed: what the server holds, what was typed since and is not saved yet, and what was refused. What
 * is not saved yet is kept in the browser too, so that a reload or a lost connection loses nothing.
 */
export function useSheet(screenId: string, athleteId: string, tests: () => Test[]) {
  const ui = useUi()
  const client = useQueryClient()
  const forget = useForget()
  const { data: session } = useSession()
  const queryKey = ['screen', screenId]
  const store = `dunnock.unsent.${screenId}`

  const {
    data: screen,
    error,
    refetch,
  } = useQuery({
    queryKey,
    queryFn: () => must(api.GET('/screens/{screenId}', { params: { path: { screenId } } })),
  })

  const typed = reactive(new Map<string, CellChange>(restore(store)))
  const trouble = reactive(new Map<string, Trouble>())
  const conflict = ref('')
  const undo = reactive<{ label: string; cells: CellChange[] }[]>([])
  let sending = false
  let timer: ReturnType<typeof setTimeout> | undefined
  let closed = false
  let note: string | undefined

  const saved = computed(() => {
    const m = new Map<string, Schemas['Trial']>()
    for (const t of screen.value?.trials ?? []) m.set(keyOf(t.test, t.side ?? '', t.trial), t)
    return m
  })

  watch(typed, () => localStorage.setItem(store, JSON.stringify([...typed.values()])), { deep: true })

  function unitOf(test: string): string {
    const t = tests().find((x) => x.id === test)
    if (!t || t.rule === 'one-rm') return ''
    return t.unit === 'm/s' ? (session.value?.units.speed ?? 'm/s') : t.unit
  }

  /** The cell as it is saved now, as a change that would bring it back. */
  function before(c: CellChange): CellChange {
    const t = saved.value.get(keyOf(c.test, c.side ?? '', c.trial))
    const base = { test: c.test, side: c.side, trial: c.trial }
    if (!t) return { ...base, text: '', status: '' }
    return {
      ...base,
      text: t.text,
      status: t.status,
      variant: t.variant,
      pain: t.pain,
      region: t.region,
      note: t.note,
      confirmed: true,
      unit: unitOf(c.test),
    }
  }

  /** Takes cells as typed; they are sent a moment later. */
  function put(cells: CellChange[], label = '') {
    if (label !== 'undo') undo.push({ label, cells: cells.map(before) })
    if (undo.length > 100) undo.shift()
    for (const c of cells) {
      const key = keyOf(c.test, c.side ?? '', c.trial)
      trouble.delete(key)
      typed.set(key, { unit: unitOf(c.test), ...c })
    }
    ui.setSave('saving')
    later(250)
  }

  function takeBack() {
    const last = undo.pop()
    if (last) put(last.cells, 'undo')
  }

  function confirm(key: string) {
    const c = typed.get(key)
    if (!c) return
    typed.set(key, { ...c, confirmed: true })
    trouble.delete(key)
    later(0)
  }

  function drop(key: string) {
    typed.delete(key)
    trouble.delete(key)
  }

  function later(ms: number) {
    clearTimeout(timer)
    if (!closed || ms === 0) timer = setTimeout(() => void send(), ms)
  }

  /** Takes what came before the screen that day; it is saved with the next cells, or by itself. */
  function setBefore(text: string) {
    note = text
    ui.setSave('saving')
    later(250)
  }

  async function send() {
    if (sending || conflict.value || !screen.value) return
    const batch = [...typed.entries()].filter(([key]) => !trouble.has(key))
    const before = note
    if (batch.length === 0 && before === undefined) {
      if (trouble.size > 0) ui.setSave('refused', 'look at the marked cells')
      return
    }
    sending = true
    ui.setSave('saving')
    try {
      const now = await must(
        api.PATCH('/screens/{screenId}', {
          params: { path: { screenId } },
          body: { revision: screen.value.revision, before, cells: batch.map(([, c]) => c) },
        }),
      )
      client.setQueryData(queryKey, now)
      if (note === before) note = undefined
      for (const [key, c] of batch) if (typed.get(key) === c) typed.delete(key)
      if (trouble.size > 0) ui.setSave('refused', 'look at the marked cells')
      else ui.setSave('saved')
      void forget(athleteId)
    } catch (e) {
      refused(e as ApiError, batch)
    } finally {
      sending = false
    }
    if (!conflict.value && [...typed.keys()].some((k) => !trouble.has(k))) later(ui.save === 'unsent' ? 3000 : 0)
  }

  /** Marks the cells that were refused; the rest of the batch goes again without them. */
  function refused(e: ApiError, batch: [string, CellChange][]) {
    if (e.offline) {
      ui.setSave('unsent', e.message)
      return
    }
    if (e.status === 409) {
      conflict.value = e.message
      ui.setSave('refused', e.message)
      return
    }
    let marked = 0
    for (const f of e.fields) {
      const at = /^cells\[(\d+)\]/.exec(f.field)
      const key = at ? batch[Number(at[1])]?.[0] : undefined
      if (key === undefined) continue
      trouble.set(key, { text: f.detail, unlikely: f.unlikely === true })
      marked++
    }
    if (marked === 0) for (const [key] of batch) trouble.set(key, { text: e.message, unlikely: false })
    ui.setSave('refused', e.message)
  }

  async function reload() {
    await refetch()
    conflict.value = ''
    ui.setSave('idle')
    later(0)
  }

  watch(
    screen,
    (s, old) => {
      if (s && !old && typed.size > 0) later(0)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    closed = true
    void send()
  })

  return { screen, error, typed, saved, trouble, conflict, undo, put, takeBack, confirm, drop, reload, setBefore }
}

function restore(store: string): [string, CellChange][] {
  try {
    const cells = JSON.parse(localStorage.getItem(store) ?? '[]') as CellChange[]
    return cells.map((c) => [keyOf(c.test, c.side ?? '', c.trial), c])
  } catch {
    return []
  }
}
