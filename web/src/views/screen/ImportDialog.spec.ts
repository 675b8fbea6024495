import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'
import { inPlace } from '@/testing'

import ImportDialog from './ImportDialog.vue'

let asked: { url: string; body: string }[] = []
let report: Schemas['ImportReport']

beforeEach(() => {
  asked = []
  report = { rows: 2, saved: false, errors: [], screens: [{ date: '2026-09-20', trials: 2 }] }
  vi.stubGlobal('fetch', async (r: Request) => {
    asked.push({ url: r.url, body: await r.text() })
    return new Response(JSON.stringify(report), { headers: { 'Content-Type': 'application/json' } })
  })
})
afterEach(() => vi.unstubAllGlobals())

async function open(text: string) {
  const w = mount(ImportDialog, {
    props: { modelValue: false, athleteId: 'a', text },
    global: {
      plugins: [createVuetify(), [VueQueryPlugin, { queryClient: new QueryClient() }]],
      stubs: { VDialog: inPlace },
    },
  })
  await w.setProps({ modelValue: true })
  await flushPromises()
  return w
}
const button = (w: Awaited<ReturnType<typeof open>>, name: string) =>
  w.findAll('button').find((b) => b.text().startsWith(name))

describe('bringing in what was pasted', () => {
  it('only looks first, tabs read as semicolons, and saves when told', async () => {
    const w = await open('date\ttest\ttrial\tvalue\n2026-09-20\tcmj\t1\t31')
    expect(asked[0]?.url).toContain('commit=false')
    expect(asked[0]?.body).toBe('date;test;trial;value\n2026-09-20;cmj;1;31')
    expect(w.text()).toContain('2 trials on Sun 20 Sep, all well')
    report = { ...report, saved: true }
    await button(w, 'Save 2 trials')?.trigger('click')
    await flushPromises()
    expect(asked[1]?.url).toContain('commit=true')
    expect(asked[1]?.url).toContain('confirm=false')
    expect(w.emitted('done')).toHaveLength(1)
  })

  it('names each row that is wrong, and offers no saving', async () => {
    report.errors = [
      { row: 3, column: 'value', detail: 'not possible' },
      { row: 4, column: 'value', detail: 'unlikely', unlikely: true },
    ]
    const w = await open('date,test,trial,value')
    expect(w.find('[role=alert]').text()).toBe('2 of 2 rows need a look. Nothing is saved.')
    expect(w.findAll('tbody tr').map((r) => r.text())).toEqual(['3valuenot possible', '4valueunlikely'])
    expect(button(w, 'Save')).toBeUndefined()
    expect(button(w, 'Keep')).toBeUndefined()
  })

  it('keeps unlikely values only when told to', async () => {
    report.errors = [{ row: 2, column: 'value', detail: 'unlikely', unlikely: true }]
    const w = await open('date,test,trial,value')
    await button(w, 'Keep 1 unlikely values and save')?.trigger('click')
    await flushPromises()
    expect(asked[1]?.url).toContain('confirm=true')
  })
})
