import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { defineComponent } from 'vue'

import { vFirst } from './first'

const form = (template: string) =>
  mount(defineComponent({ directives: { first: vFirst }, template }), { attachTo: document.body })
const frame = () => new Promise((done) => requestAnimationFrame(done))
const focused = () => document.activeElement?.getAttribute('name')

test('the first field has the focus, whatever wraps it', async () => {
  const page = form('<form><div v-first><input name="a" /></div><input name="b" /></form>')
  await frame()
  expect(focused()).toBe('a')
  page.unmount()
})

test('who is typing beside it already keeps the focus', async () => {
  const page = form('<form><input v-first name="a" /><input name="b" /></form>')
  page.find<HTMLInputElement>('[name=b]').element.focus()
  await frame()
  expect(focused()).toBe('b')
  page.unmount()
})

test('a focus from outside the form is taken over', async () => {
  const page = form('<div><button name="open"></button><form><input v-first name="a" /></form></div>')
  page.find<HTMLButtonElement>('[name=open]').element.focus()
  await frame()
  expect(focused()).toBe('a')
  page.unmount()
})
