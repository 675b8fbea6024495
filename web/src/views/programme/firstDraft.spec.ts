import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'
import { VBtn } from 'vuetify/components'

import { keys } from '@/api/keys'
import { inPlace } from '@/testing'

import FirstDraftDialog from './FirstDraftDialog.vue'

afterEach(() => vi.unstubAllGlobals())

it('asks what is not said alone, saves it, and drafts', async () => {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } })
  const golfer = {
    id: 'g',
    revision: 3,
    profile: { name: 'New One', birthDate: '1990-01-01', playingSide: 'right', trainingMonths: 24 },
    clearance: { answeredOn: '', yes: [] },
    limits: [],
    competitions: [],
    training: { days: [], minutes: 60, kit: [], sessions: 0 },
    school: 'barn',
    startDate: '',
    assumed: [
      { fact: 'days', taken: 'Monday and Thursday' },
      { fact: 'kit', taken: 'none' },
    ],
  }
  client.setQueryData(keys.athlete('g'), golfer)
  client.setQueryData(keys.meta(), { places: [{ name: 'Home or hotel', kit: ['band', 'club', 'stick'] }] })
  const bodies: { training: { days: string[]; kit: string[] } }[] = []
  vi.stubGlobal('fetch', async (r: Request) => {
    if (r.method === 'PUT') bodies.push((await r.json()) as (typeof bodies)[0])
    return new Response(JSON.stringify(golfer), { status: 200, headers: { 'Content-Type': 'application/json' } })
  })
  const w = mount(FirstDraftDialog, {
    props: { modelValue: true, athleteId: 'g' },
    global: {
      plugins: [[VueQueryPlugin, { queryClient: client }], createVuetify({ components: { VBtn } })],
      stubs: { VDialog: inPlace, VTextField: { props: ['label'], template: '<label>{{ label }}</label>' } },
    },
  })
  await flushPromises()
  expect(w.text()).toContain('open: Monday and Thursday')
  expect(w.text()).not.toContain('Minutes a session')
  expect(w.text()).not.toContain('Months of regular')
  const press = (name: string) =>
    w
      .findAll('button')
      .find((b) => b.text() === name)
      ?.trigger('click')
  await press('Tue')
  await press('Thu')
  await press('Home or hotel')
  await w.get('form').trigger('submit')
  await flushPromises()
  expect(bodies[0]?.training).toMatchObject({ days: ['tue', 'thu'], kit: ['band', 'club', 'stick'], minutes: 60 })
  expect(w.emitted('draft')).toHaveLength(1)
})
