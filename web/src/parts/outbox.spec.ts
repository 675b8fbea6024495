import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import { ApiError, queryClient } from '@/api/client'
import { useUi } from '@/app/ui'

import { createOutbox, type OutboxOptions } from './outbox'

interface Note {
  id: string
  text: string
}
const offline = () => new ApiError(0, undefined)
const no = () => new ApiError(422, { type: 'about:blank', title: '', status: 422, detail: 'no such thing' })

let sent: Note[][] = []
let answers: (() => Promise<void>)[] = []
function open(more: Partial<OutboxOptions<Note>> = {}) {
  return createOutbox<Note>({
    name: 'notes',
    keyOf: (n) => n.id,
    ready: () => true,
    send: async (values) => {
      sent.push(values.map((v) => ({ ...v })))
      await answers.shift()?.()
    },
    ...more,
  })
}
const kept = (who = 'una') => JSON.parse(localStorage.getItem(`dunnock.unsent.${who}.notes`) ?? '[]') as Note[]
const run = (ms = 0) => vi.advanceTimersByTimeAsync(ms)

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  queryClient.setQueryData(['session'], { id: 'una' })
  sent = []
  answers = []
})
afterEach(() => {
  vi.useRealTimers()
  queryClient.clear()
})

it('sends what waits in one batch, in the order it was put', async () => {
  const box = open()
  box.put({ id: 'a', text: '1' })
  box.put({ id: 'b', text: '2' })
  box.put({ id: 'a', text: '3' })
  box.later(0)
  expect(useUi().save).toBe('saving')
  await run()
  expect(sent).toEqual([
    [
      { id: 'a', text: '3' },
      { id: 'b', text: '2' },
    ],
  ])
  expect(box.waiting.size).toBe(0)
  expect(useUi().save).toBe('saved')
})

it('gathers what is put while a batch is on its way, and sends it after', async () => {
  let arrive = () => {}
  answers = [() => new Promise<void>((r) => (arrive = r))]
  const box = open({ putMeanwhile: (n) => ({ ...n, text: n.text + '!' }) })
  box.put({ id: 'a', text: '1' })
  box.later(0)
  await run()
  box.put({ id: 'a', text: '2' })
  box.later(0)
  await run()
  expect(sent).toHaveLength(1)
  arrive()
  await run()
  expect(sent[1]).toEqual([{ id: 'a', text: '2!' }])
})

it('keeps what could not be sent for who typed it, and tries again by itself', async () => {
  answers = [() => Promise.reject(offline())]
  const box = open()
  box.put({ id: 'a', text: '1' })
  box.later(0)
  await run()
  expect(useUi().save).toBe('unsent')
  expect(kept()).toEqual([{ id: 'a', text: '1' }])
  expect(kept('ewan')).toEqual([])
  await run(3100)
  expect(sent).toHaveLength(2)
  await nextTick()
  expect(kept()).toEqual([])
})

it('finds after a reload what was kept, also a form an earlier version kept alone', () => {
  localStorage.setItem('dunnock.unsent.una.notes', JSON.stringify([{ id: 'a', text: '1' }]))
  expect([...open().waiting.keys()]).toEqual(['a'])
  localStorage.setItem('dunnock.unsent.una.notes', JSON.stringify({ id: 'b', text: '2' }))
  expect([...open().waiting.keys()]).toEqual(['b'])
  localStorage.setItem('dunnock.unsent.una.notes', '{broken')
  expect(open().waiting.size).toBe(0)
})

it('holds back what was refused until it is put again, and sends the rest', async () => {
  const held = new Set<string>()
  answers = [() => Promise.reject(no())]
  const box = open({ held: (k) => held.has(k), refused: (_, batch) => batch.slice(0, 1).forEach(([k]) => held.add(k)) })
  box.put({ id: 'a', text: 'bad' })
  box.put({ id: 'b', text: 'good' })
  box.later(0)
  await run()
  expect(sent[1]).toEqual([{ id: 'b', text: 'good' }])
  expect([...box.waiting.keys()]).toEqual(['a'])
  expect(useUi().save).toBe('refused')
  held.delete('a')
  box.put({ id: 'a', text: 'better' })
  box.later(0)
  await run()
  expect(box.waiting.size).toBe(0)
})

it('waits until there is something to send to, and sends what is left when it closes', async () => {
  let ready = false
  const box = open({ ready: () => ready })
  box.put({ id: 'a', text: '1' })
  box.later(0)
  await run()
  expect(sent).toEqual([])
  ready = true
  box.close()
  await run()
  expect(sent).toHaveLength(1)
  box.drop('a')
  box.later(500)
  await run(600)
  expect(sent).toHaveLength(1)
})
