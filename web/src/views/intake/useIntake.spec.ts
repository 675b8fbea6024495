import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, nextTick } from 'vue'

import { keys } from '@/api/keys'
import { useUi } from '@/app/ui'

import { useIntake } from './useIntake'

const golfer = {
  id: 'a',
  revision: 3,
  profile: { name: 'Test', birthDate: '1991-03-10', playingSide: 'right', trainingMonths: 3 },
  clearance: { answeredOn: '', yes: [] },
  limits: [],
  training: { days: [], sessions: 0, minutes: 0, kit: [] },
  competitions: [],
  school: 'measured-gap',
  startDate: '',
}
let puts: { revision: number; profile: { name: string } }[] = []
let answer: (body: (typeof puts)[0]) => Response | Promise<Response>
let read: () => Response | Promise<Response>

function json(body: unknown, status = 200) {
  return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
}
beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  puts = []
  read = () => json(golfer)
  answer = (body) => json({ ...golfer, ...body, revision: body.revision + 1 })
  vi.stubGlobal('fetch', async (r: Request) => {
    if (r.method !== 'PUT') return read()
    const body = (await r.json()) as (typeof puts)[0]
    puts.push(body)
    return answer(body)
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function settle(ms = 0) {
  for (let i = 0; i < 6; i++) {
    await vi.advanceTimersByTimeAsync(i === 0 ? ms : 1)
    await flushPromises()
  }
}
async function open() {
  let intake!: ReturnType<typeof useIntake>
  const pinia = createPinia()
  const host = defineComponent({ setup: () => ((intake = useIntake('a')), () => null) })
  const client = new QueryClient()
  const wrapper = mount(host, { global: { plugins: [pinia, [VueQueryPlugin, { queryClient: client }]] } })
  await settle()
  return { intake, wrapper, client, ui: useUi(pinia) }
}
async function rename(intake: ReturnType<typeof useIntake>, name: string) {
  if (intake.form.value) intake.form.value.profile.name = name
  await nextTick()
}

it('saves a moment after the last change, with the revision it saw', async () => {
  const { intake, ui } = await open()
  expect(puts).toHaveLength(0)
  await rename(intake, 'T')
  await rename(intake, 'Tess')
  expect(ui.save).toBe('saving')
  await settle(600)
  expect(puts.map((p) => [p.revision, p.profile.name])).toEqual([[3, 'Tess']])
  expect(ui.save).toBe('saved')
  await rename(intake, 'Tessa')
  await settle(600)
  expect(puts[1]?.revision).toBe(4)
})

it('keeps what is not saved over a reload', async () => {
  const first = await open()
  answer = () => Promise.reject(new TypeError('offline'))
  await rename(first.intake, 'Kept')
  await settle(600)
  expect(first.ui.save).toBe('unsent')
  first.wrapper.unmount()
  await settle()
  answer = (body) => json({ ...golfer, ...body, revision: body.revision + 1 })
  const second = await open()
  expect(second.intake.form.value?.profile.name).toBe('Kept')
  await settle(600)
  expect(puts.at(-1)?.profile.name).toBe('Kept')
})

it('names the fields that are wrong and keeps what was typed', async () => {
  const { intake, ui } = await open()
  answer = () =>
    json(
      {
        type: '',
        title: '',
        status: 422,
        detail: 'wrong',
        errors: [{ field: 'athlete.name', detail: 'a name is needed' }],
      },
      422,
    )
  await rename(intake, '')
  await settle(600)
  expect(intake.wrong.value).toEqual({ 'profile.name': 'a name is needed' })
  expect(ui.save).toBe('refused')
  expect(intake.form.value?.profile.name).toBe('')
})

it('stops at a conflict until the golfer is loaded again', async () => {
  const { intake } = await open()
  answer = () => json({ type: '', title: '', status: 409, detail: 'changed by somebody else' }, 409)
  await rename(intake, 'Mine')
  await settle(600)
  expect(intake.conflict.value).toContain('somebody else')
  await rename(intake, 'Mine too')
  await settle(600)
  expect(puts).toHaveLength(1)
  await intake.reload()
  expect(intake.conflict.value).toBe('')
  expect(intake.form.value?.profile.name).toBe('Test')
})

it('takes back the last saved change by saving what stood before', async () => {
  const { intake } = await open()
  await rename(intake, 'One')
  await settle(600)
  await rename(intake, 'Two')
  await settle(600)
  expect(intake.before.value).toHaveLength(2)
  intake.takeBack()
  await settle(600)
  expect(puts.at(-1)).toMatchObject({ revision: 5, profile: { name: 'One' } })
  intake.takeBack()
  await settle(600)
  expect(puts.at(-1)?.profile.name).toBe('Test')
  expect(intake.before.value).toHaveLength(0)
})

it('takes back what is not saved yet alone, and remembers what is changed after', async () => {
  const { intake } = await open()
  await rename(intake, 'One')
  await settle(600)
  await rename(intake, 'Two')
  intake.takeBack()
  await settle(600)
  expect(intake.form.value?.profile.name).toBe('One')
  expect(puts).toHaveLength(1)
  await rename(intake, 'Three')
  await settle(600)
  expect(intake.before.value).toHaveLength(2)
})

it('takes back what is just being saved', async () => {
  const { intake } = await open()
  let arrive: () => void = () => undefined
  answer = (body) =>
    new Promise((done) => (arrive = () => done(json({ ...golfer, ...body, revision: body.revision + 1 }))))
  await rename(intake, 'Mistyped')
  await settle(600)
  expect(puts).toHaveLength(1)
  intake.takeBack()
  // What hangs on the golfer is asked for again, and that takes its time.
  read = () => new Promise((done) => setTimeout(() => done(json({ ...golfer, ...puts[0], revision: 4 })), 100))
  answer = (body) => json({ ...golfer, ...body, revision: body.revision + 1 })
  arrive()
  await settle(600)
  await settle(600)
  expect(intake.form.value?.profile.name).toBe('Test')
  expect(puts.map((p) => [p.revision, p.profile.name])).toEqual([
    [3, 'Mistyped'],
    [4, 'Test'],
  ])
})

it('keeps what was saved where an answer that was asked for before arrives after', async () => {
  const { intake, client } = await open()
  read = () => json({ ...golfer, revision: 4, profile: { ...golfer.profile, name: 'Tess' } })
  await rename(intake, 'Tess')
  await settle(600)
  client.setQueryData(keys.athlete('a'), golfer)
  await settle()
  expect(intake.form.value?.profile.name).toBe('Tess')
  client.setQueryData(keys.athlete('a'), { ...golfer, revision: 5, profile: { ...golfer.profile, name: 'Theirs' } })
  await settle()
  expect(intake.form.value?.profile.name).toBe('Theirs')
})
