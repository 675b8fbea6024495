import { afterEach, beforeEach, expect, it } from 'vitest'

import { keepFocus } from './keepFocus'

let end = () => {}
const frame = () => new Promise((r) => setTimeout(r, 40))
const at = (id: string) => document.querySelector<HTMLElement>(`#${id}`) as HTMLElement
const focusOn = (id: string) => at(id).focus()
const focused = () => document.activeElement?.id

beforeEach(() => {
  document.body.innerHTML =
    '<nav><a id="away" href="#x">away</a></nav><main id="content" tabindex="-1"><ul id="list"><li><button id="a">a</button></li><li><button id="b">b</button></li></ul><input id="field" /></main>'
  end = keepFocus()
})
afterEach(() => {
  end()
  document.body.innerHTML = ''
})

it('gives the focus of what is taken away to what is nearest and stayed', async () => {
  focusOn('b')
  at('b').closest('li')?.remove()
  await frame()
  expect(focused()).toBe('a')
})

it('does so for what can no longer be used', async () => {
  focusOn('a')
  at('a').setAttribute('disabled', '')
  at('a').blur()
  await frame()
  expect(focused()).toBe('b')
})

it('gives it to the content where nothing around it stayed', async () => {
  focusOn('b')
  at('list').remove()
  await frame()
  expect(focused()).toBe('content')
})

it('leaves it where somebody put it', async () => {
  focusOn('b')
  focusOn('field')
  at('b').remove()
  await frame()
  expect(focused()).toBe('field')
})

it('leaves it nowhere when somebody clicked beside everything', async () => {
  focusOn('b')
  at('list').dispatchEvent(new Event('pointerdown', { bubbles: true }))
  at('b').blur()
  at('b').remove()
  await frame()
  expect(focused()).toBe('')
})
