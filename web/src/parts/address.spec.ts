import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { defineComponent, type Ref } from 'vue'
import { createMemoryHistory, createRouter, RouterView } from 'vue-router'

import { useAddress, useTypedAddress } from './address'

afterEach(() => vi.useRealTimers())

async function open(path: string) {
  let sort!: Ref<string>
  let group!: Ref<string>
  let text!: Ref<string>
  const list = defineComponent({
    setup() {
      sort = useAddress('sort', 'due')
      group = useAddress('group')
      text = useTypedAddress('q')
      return () => null
    },
  })
  const history = createMemoryHistory()
  const router = createRouter({
    history,
    routes: [
      { path: '/', component: list },
      { path: '/read', component: { render: () => null } },
    ],
  })
  await router.push(path)
  const w = mount(RouterView, { global: { plugins: [router] } })
  await flushPromises()
  return { router, history, w, sort: () => sort, group: () => group, text: () => text }
}

it('takes what is chosen from the address, and leaves what is usual out of it', async () => {
  const a = await open('/?sort=age')
  expect([a.sort().value, a.group().value]).toEqual(['age', ''])
  a.group().value = 'Juniors'
  await flushPromises()
  a.sort().value = 'due'
  await flushPromises()
  expect(a.history.location).toBe('/?group=Juniors')
})

it('writes what is typed once the hand rests, beside what is chosen', async () => {
  vi.useFakeTimers()
  const a = await open('/')
  a.text().value = 'fin'
  await vi.advanceTimersByTimeAsync(300)
  expect(a.history.location).toBe('/?q=fin')
  a.sort().value = 'name'
  await flushPromises()
  expect(a.history.location).toBe('/?q=fin&sort=name')
})

it('writes it when the page is left before that, stops nobody, and touches no other page', async () => {
  vi.useFakeTimers()
  const a = await open('/')
  a.text().value = 'fin'
  await flushPromises()
  await a.router.push('/read')
  await vi.advanceTimersByTimeAsync(1000)
  expect(a.history.location).toBe('/read')
  a.router.back()
  await vi.advanceTimersByTimeAsync(10)
  await flushPromises()
  expect(a.history.location).toBe('/?q=fin')
  expect(a.text().value).toBe('fin')
})
