import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { inPlace, inside } from '@/testing'

import DraftSeveral from './DraftSeveral.vue'
import { named } from './named'
import type { SquadRow } from './rows'
import { useSquadActions } from './useSquadActions'

let sent: string[] = []
let answer: (path: string) => [number, object] = () => [200, { golfers: 2 }]
beforeEach(() => {
  sent = []
  vi.stubGlobal('fetch', async (r: Request) => {
    const path = new URL(r.url).pathname.replace('/api/v1', '')
    sent.push(`${path} ${await r.text()}`)
    const [status, body] = answer(path)
    return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
  })
})
afterEach(() => vi.unstubAllGlobals())

it('says what was done with several, and takes it back', async () => {
  answer = () => [200, { golfers: 2 }]
  const a = inside(useSquadActions)
  await a.archive.mutateAsync({ golfers: ['1', '2'], away: true })
  expect(a.done.value?.text).toBe('2 golfers put away')
  await a.back.mutateAsync()
  expect(sent.at(-1)).toBe('/squad/archive {"golfers":["1","2"],"away":false}')
  expect(a.done.value).toBeUndefined()
  await a.group.mutateAsync({ golfers: ['1'], group: 'Barn', in: true })
  answer = () => [503, { detail: 'The database is away.' }]
  await a.back.mutateAsync().catch(() => undefined)
  await flushPromises()
  expect(a.wrong.value?.message).toBe('The database is away.')
  expect(a.done.value?.text).toBe('2 golfers put into Barn')
  answer = () => [200, { golfers: 1 }]
  await a.back.mutateAsync()
  expect(sent.at(-1)).toBe('/squad/groups {"golfers":["1"],"group":"Barn","in":false}')
})

it('drafts for who has no draft, and says with a way on who was refused', async () => {
  answer = (path) => (path.includes('/2/') ? [403, { detail: 'Not cleared.' }] : [201, { id: 'p' }])
  const golfer = (id: string, status?: 'draft') =>
    ({
      id,
      name: `Golfer ${id}`,
      lane: { screens: [], competitions: [], blocks: status ? [{ start: '', weeks: 4, emphasis: '', status }] : [] },
    }) as unknown as SquadRow
  const w = mount(DraftSeveral, {
    props: { modelValue: true, golfers: [golfer('1'), golfer('2'), golfer('3', 'draft')] },
    global: {
      plugins: [[VueQueryPlugin, { queryClient: new QueryClient() }]],
      stubs: {
        VDialog: inPlace,
        VBtn: { template: '<button><slot /></button>' },
        VProgressLinear: { template: '<i />' },
        RouterLink: { template: '<a><slot /></a>' },
      },
    },
  })
  expect(w.text()).toContain('1 golfer has a draft: it stays as it is.')
  await w.get('form').trigger('submit')
  await flushPromises()
  expect(sent.map((s) => s.split(' ')[0])).toEqual(['/athletes/1/programmes', '/athletes/2/programmes'])
  expect(w.text()).toContain('1 draft made.')
  expect(w.get('li').text()).toBe('Golfer 2: Not cleared.')
})

it('takes golfers from an address, and nothing else', () => {
  const id = '0b6cf4a1-7a5c-4f0e-9a36-1d2f3a4b5c6d'
  expect(named(`${id},x,${id.toUpperCase()}`)).toEqual([id])
  expect(named(undefined)).toEqual([])
})
