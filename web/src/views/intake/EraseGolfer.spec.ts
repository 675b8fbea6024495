import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'

import { inPlace } from '@/testing'

import EraseGolfer from './EraseGolfer.vue'

const push = vi.fn()
vi.mock('vue-router', () => ({ useRouter: () => ({ push }) }))
const field = defineComponent({
  emits: ['update:modelValue'],
  setup:
    (_, { emit }) =>
    () =>
      h('input', { onInput: (e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).value) }),
})
afterEach(() => vi.unstubAllGlobals())

it('erases only by the golfer’s very name', async () => {
  const sent: string[] = []
  vi.stubGlobal('fetch', (r: Request) => {
    sent.push(`${r.method} ${new URL(r.url).pathname}`)
    return Promise.resolve(new Response(null, { status: 204 }))
  })
  const w = mount(EraseGolfer, {
    props: { modelValue: true, athleteId: 'g', name: 'Una Firth' },
    global: {
      plugins: [[VueQueryPlugin, { queryClient: new QueryClient() }]],
      stubs: { VDialog: inPlace, VTextField: field, VBtn: { template: '<button><slot /></button>' } },
    },
  })
  const button = () => w.findAll('button').find((b) => b.text() === 'Erase')
  await w.find('input').setValue('una firth')
  expect(button()?.attributes('disabled')).toBeDefined()
  await w.find('input').setValue('Una Firth')
  expect(button()?.attributes('disabled')).toBeUndefined()
  // Kept, and opened again: the name is asked for again.
  await w.setProps({ modelValue: false })
  await w.setProps({ modelValue: true })
  expect(button()?.attributes('disabled')).toBeDefined()
  await w.find('input').setValue('Una Firth')
  await button()?.trigger('click')
  await flushPromises()
  expect(sent).toEqual(['DELETE /api/v1/athletes/g'])
  expect(push).toHaveBeenCalledWith('/')
})
