import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, ref } from 'vue'

import type { Schemas } from '@/api/client'

import { useProgrammeEdits } from './useProgrammeEdits'

type View = Schemas['ProgrammeView']
let sent: (number | string)[] = []
let revision = 1
let done = 0
let refuse: ((n: number) => Response | undefined) | undefined
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })

beforeEach(() => {
  sent = []
  done = 0
  revision = 1
  refuse = undefined
  vi.stubGlobal('fetch', async (r: Request) => {
    const body = (await r.json()) as { revision?: number; over?: boolean }
    sent.push(body.over ? 'over' : (body.revision ?? 'step'))
    await new Promise((resolve) => setTimeout(resolve, 5))
    done++
    const no = refuse?.(sent.length)
    if (no) return no
    if (body.revision && body.revision !== revision && !body.over)
      return json({ status: 409, detail: 'changed', since: ['Una: Removed a lift'] }, 409)
    revision++
    return json({ id: 'p', revision })
  })
})
afterEach(() => vi.unstubAllGlobals())

function open() {
  let edits!: ReturnType<typeof useProgrammeEdits>
  const view = ref({ id: 'p', revision: 1 } as View)
  mount(defineComponent({ setup: () => ((edits = useProgrammeEdits(view, 'a')), () => null) }), {
    global: { plugins: [createPinia(), [VueQueryPlugin, { queryClient: new QueryClient() }]] },
  })
  return edits
}
/** Waits until so many changes were sent and answered. */
const answered = (n: number) =>
  vi
    .waitFor(
      () => {
        if (done < n) throw new Error(`${done} of ${n} answered`)
      },
      { timeout: 5000 },
    )
    .then(flushPromises)
const remove: Schemas['Edit'] = { kind: 'remove', at: 'k-1', scope: 'cell' }

it('sends changes made at once one after the other, each on the revision of the one before', async () => {
  const { edit, step, trouble } = open()
  edit.mutate(remove)
  edit.mutate(remove)
  step.mutate(-1)
  edit.mutate(remove)
  await answered(4)
  expect(sent).toEqual([1, 2, 'step', 4])
  expect(trouble.value).toBe('')
})

it('goes on after one that was refused', async () => {
  refuse = (n) => (n === 1 ? json({ status: 422, detail: 'no such place' }, 422) : undefined)
  const { edit, trouble } = open()
  edit.mutate(remove)
  await answered(1)
  expect(trouble.value).toBe('no such place')
  edit.mutate(remove)
  await answered(2)
  expect(sent).toEqual([1, 1])
  expect(trouble.value).toBe('')
})

it('asks a second editor which change stands, and makes theirs where they say so', async () => {
  revision = 7
  const { edit, trouble, clash, decide } = open()
  edit.mutate(remove)
  await answered(1)
  expect(trouble.value).toBe('')
  expect(clash.value?.since).toEqual(['Una: Removed a lift'])
  decide(true)
  await answered(2)
  expect(sent).toEqual([1, 'over'])
  expect(clash.value).toBeUndefined()
})

it('lets the other change stand', async () => {
  revision = 7
  const { edit, clash, decide } = open()
  edit.mutate(remove)
  await answered(1)
  decide(false)
  expect(clash.value).toBeUndefined()
  expect(sent).toEqual([1])
})
