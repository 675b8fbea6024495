import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { createVuetify } from 'vuetify'

import ReplanDialog from './ReplanDialog.vue'

/** A stream of server-sent events that a test feeds. */
class Stream extends EventTarget {
  static last: Stream
  onopen?: () => void
  onmessage?: (e: { data: string }) => void
  closed = false
  constructor(readonly url: string) {
    super()
    Stream.last = this
  }
  close() {
    this.closed = true
  }
  say(event: object) {
    this.onmessage?.({ data: JSON.stringify(event) })
  }
}
let sent: string[] = []
beforeEach(() => {
  sent = []
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('fetch', async (r: Request) => {
    sent.push(`${new URL(r.url).pathname} ${await r.text()}`)
    return new Response(JSON.stringify({ id: 'p' }), { status: 201, headers: { 'Content-Type': 'application/json' } })
  })
})
afterEach(() => vi.unstubAllGlobals())

async function open() {
  const w = mount(ReplanDialog, {
    props: { modelValue: false },
    global: {
      plugins: [createVuetify(), [VueQueryPlugin, { queryClient: new QueryClient() }]],
      stubs: { VDialog: { template: '<div><slot /></div>' } },
    },
  })
  await w.setProps({ modelValue: true })
  await nextTick()
  return w
}
const golfer = (name: string, changes: number, why?: string) => ({
  athleteId: name,
  name,
  changes,
  first: 'Week 1: a lift is gone.',
  school: 'barn',
  start: '2026-11-30',
  ...(why ? { why } : {}),
})

it('looks at every draft first, and drafts those that are chosen', async () => {
  const w = await open()
  Stream.last.say({ done: 1, of: 3, golfer: golfer('Ada', 2) })
  await nextTick()
  expect(w.text()).toContain('1 of 3 looked at')
  Stream.last.say({ done: 2, of: 3, golfer: golfer('Bo', 0) })
  await nextTick()
  Stream.last.say({ done: 3, of: 3, golfer: golfer('Cy', 0, 'A red flag.') })
  await nextTick()
  Stream.last.say({ done: 3, of: 3, ended: true })
  await flushPromises()
  expect(w.findAll('li').map((l) => l.text())).toEqual(['Ada2 changes. Week 1: a lift is gone.', 'CyA red flag.'])
  expect(w.text()).toContain('1 draft stays as it is')
  await w.find('form').trigger('submit')
  await flushPromises()
  expect(sent).toEqual(['/api/v1/athletes/Ada/programmes {"school":"barn","startDate":"2026-11-30"}'])
})

it('is stopped, and says why it ended early', async () => {
  const w = await open()
  Stream.last.say({ done: 1, of: 200, golfer: golfer('Ada', 1) })
  await nextTick()
  await w
    .findAll('button')
    .find((b) => b.text() === 'Stop')
    ?.trigger('click')
  expect(Stream.last.closed).toBe(true)
  const again = await open()
  Stream.last.say({ done: 1, of: 2, ended: true, text: 'You signed out.' })
  await nextTick()
  expect(again.find('[role=alert]').text()).toBe('You signed out.')
})
