import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { defineComponent, h, ref } from 'vue'

import { lateDialog } from './late'

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

test('another property can open it', async () => {
  const Late = lateDialog(() => Promise.resolve({ default: Dialog }), 'clash')
  const clash = ref<object>()
  const w = mount(() => h(Late as never, { clash: clash.value }))
  await flushPromises()
  expect(w.find('[role=dialog]').exists()).toBe(false)
  clash.value = {}
  await flushPromises()
  expect(w.find('[role=dialog]').exists()).toBe(true)
})
