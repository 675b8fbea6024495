/* eslint-disable vue/one-component-per-file */
import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { defineComponent, h, ref, watch } from 'vue'

import { unreached } from '@/api/client'

import { lateDialog, lateField } from './late'

const Dialog = defineComponent({
  props: { modelValue: Boolean, text: { type: String, default: '' } },
  setup:
    (props, { slots }) =>
    () =>
      h('div', { role: 'dialog', hidden: !props.modelValue }, [props.text, slots.default?.()]),
})

test('a dialog is fetched when it opens for the first time, and stays', async () => {
  const loader = vi.fn(() => Promise.resolve({ default: Dialog }))
  const Late = lateDialog(loader)
  const open = ref(false)
  const w = mount(() => h(Late, { modelValue: open.value, text: 'Sure?' }, () => 'inside'))
  await flushPromises()
  expect(loader).not.toHaveBeenCalled()
  expect(w.find('[role=dialog]').exists()).toBe(false)
  open.value = true
  await flushPromises()
  expect(w.find('[role=dialog]').text()).toBe('Sure?inside')
  open.value = false
  await flushPromises()
  expect(w.find('[role=dialog]').attributes('hidden')).toBeDefined()
  expect(loader).toHaveBeenCalledOnce()
})

test('what a dialog does as it opens, it does the first time too', async () => {
  const opened = vi.fn()
  const Watching = defineComponent({
    props: { modelValue: Boolean },
    setup(props) {
      watch(
        () => props.modelValue,
        (is) => opened(is),
      )
      return () => null
    },
  })
  const Late = lateDialog(() => Promise.resolve({ default: Watching }))
  mount(() => h(Late, { modelValue: true }))
  await flushPromises()
  expect(opened.mock.calls).toEqual([[true]])
})

test('what could not be fetched is said, and asked for again', async () => {
  unreached.tell = vi.fn()
  const loader = vi.fn().mockRejectedValueOnce(new Error('gone')).mockResolvedValue({ default: Dialog })
  const Late = lateDialog<typeof Dialog>(loader)
  const open = ref(true)
  const w = mount(() => h(Late, { modelValue: open.value, 'onUpdate:modelValue': (is: boolean) => (open.value = is) }))
  await flushPromises()
  expect(unreached.tell).toHaveBeenCalledOnce()
  expect(open.value).toBe(false)
  open.value = true
  await flushPromises()
  expect(w.find('[role=dialog]').exists()).toBe(true)
})

test('another property can open it', async () => {
  const Late = lateDialog(() => Promise.resolve({ default: Dialog }), { opens: 'clash' })
  const clash = ref<object>()
  const w = mount(() => h(Late as never, { clash: clash.value }))
  await flushPromises()
  expect(w.find('[role=dialog]').exists()).toBe(false)
  clash.value = {}
  await flushPromises()
  expect(w.find('[role=dialog]').exists()).toBe(true)
})

test('what is typed while a dialog is on its way goes nowhere', async () => {
  let come: (m: { default: typeof Dialog }) => void = () => undefined
  const Late = lateDialog(() => new Promise<{ default: typeof Dialog }>((done) => (come = done)))
  const open = ref(false)
  mount(() => h(Late, { modelValue: open.value }))
  const typed = () =>
    !document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '4', bubbles: true, cancelable: true }))
  await vi.waitFor(() => expect(typed()).toBe(false))
  open.value = true
  await flushPromises()
  expect(typed()).toBe(true)
  come({ default: Dialog })
  await vi.waitFor(() => expect(typed()).toBe(false))
})

test('a line that hangs does not take the keys for good', async () => {
  vi.useFakeTimers()
  const Late = lateDialog(() => new Promise<{ default: typeof Dialog }>(() => undefined))
  mount(() => h(Late, { modelValue: true }))
  const typed = () =>
    !document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '4', bubbles: true, cancelable: true }))
  expect(typed()).toBe(true)
  vi.advanceTimersByTime(2000)
  expect(typed()).toBe(false)
  vi.useRealTimers()
})

test('a field that opens a list keeps its room until it is there', async () => {
  let come: (field: object) => void = () => undefined
  const Late = lateField(() => new Promise<object>((done) => (come = done)))
  const w = mount(() => h(Late, { 'aria-label': 'Kit' }))
  expect(w.get('.not-yet').attributes('style')).toContain('min-height')
  come(defineComponent(() => () => h('input')))
  await vi.waitFor(() => expect(w.get('input').attributes('aria-label')).toBe('Kit'))
  expect(w.find('.not-yet').exists()).toBe(false)
})
