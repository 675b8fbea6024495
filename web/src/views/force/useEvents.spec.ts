import { expect, it, vi } from 'vitest'

const sent: { t: number; done: () => void }[] = []
vi.mock('./useForce', () => ({
  useForceEdits: () => ({
    change: {
      mutateAsync: ({ settings }: { settings: { swing: { impactS: number } } }) =>
        new Promise<void>((done) => sent.push({ t: settings.swing.impactS, done })),
    },
  }),
}))
const { useEvents } = await import('./useEvents')

it('sends one move at a time, and the last wish next', async () => {
  const recording = { id: 'r', athleteId: 'a', swing: {}, settings: { swing: { impactS: 1, topS: 0.5 } } }
  const { place, moving, before } = useEvents(() => recording as never)
  void place('impactS', 2)
  void place('impactS', 3)
  const last = place('impactS', 4)
  expect(sent.map((s) => s.t)).toEqual([2])
  expect(moving.value).toEqual({ key: 'impactS', t: 4 })
  sent[0]?.done()
  await vi.waitFor(() => expect(sent.map((s) => s.t)).toEqual([2, 4]))
  expect(moving.value, 'it stands where it was moved to until that is saved').toEqual({ key: 'impactS', t: 4 })
  sent[1]?.done()
  await last
  expect(moving.value).toBeUndefined()
  expect(before.value, 'a series is one step back').toHaveLength(1)
})
