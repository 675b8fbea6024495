import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { mount } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { defineComponent, h, nextTick } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { createVuetify } from 'vuetify'

import CommandSearch from './CommandSearch.vue'
import { golferPages } from './pages'

const squad = [
  { id: '1', name: 'Marit Hellyer', age: 30, playingSide: 'right' },
  { id: '2', name: 'Magnus Quoyle', age: 30, playingSide: 'right' },
]
const inPlace = defineComponent({
  setup:
    (_, { slots }) =>
    () =>
      h('div', slots.default?.()),
})
const page = { render: () => null }
let unmount = () => {}
afterEach(() => unmount())

function open(golferId = '') {
  const queryClient = new QueryClient()
  queryClient.setQueryDefaults(['golfers'], { queryFn: () => squad, initialData: squad, staleTime: Infinity })
  queryClient.setQueryData(['golfers', ''], squad)
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', name: 'squad', component: page },
      ...['today', 'days', 'tests', 'method', 'repeats', 'files', 'plan-day', 'plan-class', 'group-warmup'].map(
        (name) => ({
          path: `/${name}`,
          name,
          component: page,
        }),
      ),
      ...[...golferPages.map((p) => p.name), 'load'].map((name) => ({
        path: `/golfers/:id/${name}`,
        name,
        component: page,
      })),
    ],
  })
  const w = mount(CommandSearch, {
    props: { modelValue: true, golferId },
    global: { plugins: [createVuetify(), router, [VueQueryPlugin, { queryClient }]], stubs: { VDialog: inPlace } },
    attachTo: document.body,
  })
  unmount = () => w.unmount()
  return { w, router }
}

it('finds by parts of words and goes there by Enter', async () => {
  const { w, router } = open()
  await w.find('input').setValue('quo mag')
  expect(w.findAll('li').map((l) => l.text())).toEqual(['Magnus Quoyle'])
  await w.find('input').trigger('keydown', { key: 'Enter' })
  await nextTick()
  await router.isReady()
  expect(router.currentRoute.value.fullPath).toBe('/golfers/2/read')
  expect(w.emitted('update:modelValue')?.at(-1)).toEqual([false])
})

it('walks by arrows and stays within the list', async () => {
  const { w } = open()
  const input = w.find('input')
  for (let i = 0; i < 20; i++) await input.trigger('keydown', { key: 'ArrowDown' })
  expect(w.find('li.on').text()).toBe(w.findAll('li').at(-1)?.text())
  for (let i = 0; i < 20; i++) await input.trigger('keydown', { key: 'ArrowUp' })
  expect(w.find('li.on').text()).toBe('Today')
})

it('offers the steps of the golfer who is open, and says when nothing fits', async () => {
  const { w } = open('1')
  expect(w.text()).toContain('Programme of this golfer')
  await w.find('input').setValue('zzz')
  expect(w.text()).toContain('Nothing is called that')
})

it('offers what can be done, and help', async () => {
  const { w, router } = open('1')
  await w.find('input').setValue('draft')
  await w.find('input').trigger('keydown', { key: 'Enter' })
  await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe('/golfers/1/programme?draft='))
  unmount()
  const again = open()
  await again.w.find('input').setValue('help')
  await again.w.find('input').trigger('keydown', { key: 'Enter' })
  expect(again.w.emitted('help')).toHaveLength(1)
})
