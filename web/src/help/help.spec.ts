import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { createVuetify } from 'vuetify'

import { router as pages } from '@/app/router'
import { useLetters } from '@/keys/letters'
import { useGo } from '@/keys/useGo'
import { useLetter } from '@/keys/useLetter'
import { inPlace, inside } from '@/testing'

import { findInGuide, guide, sectionOf, sectionsOf } from './guide'
import HelpDialog from './HelpDialog.vue'

const press = (key: string, more = {}) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  document.body.dispatchEvent(event)
  return event
}
afterEach(() => {
  useLetters().value = true
  vi.useRealTimers()
})

describe('the guide', () => {
  it('is in parts, with the words of links and no way out of the program', () => {
    const [a, b] = sectionsOf(
      '# Guide\n\n**One.** See [formats](formats.md).\n\n| key | does |\n|---|---|\n| `p` | pain |\n\n## Words\n\n- lead',
    )
    expect(a?.title).toBe('One')
    expect(a?.html).toContain('See formats.')
    expect(a?.html).toContain('<td><code>p</code></td>')
    expect(b?.title).toBe('Words')
    expect(guide.map((s) => s.html).join()).not.toContain('<a ')
  })
  it('tells of every page', () => {
    for (const r of pages.getRoutes().filter((x) => x.name))
      expect(sectionOf(String(r.name))?.html, String(r.name)).toBeTruthy()
  })
  it('finds what holds every word, named ones first', () => {
    expect(findInGuide('warm-up')[0]?.title).toBe('Warm-up')
    expect(findInGuide('dynamometer record').map((s) => s.title)).toContain('Screen')
    expect(findInGuide('  ')).toEqual([])
    expect(findInGuide('zeppelin')).toEqual([])
  })
})

describe('help', () => {
  async function open(page: string, modelValue = true) {
    const router = createRouter({
      history: createMemoryHistory(),
      routes: [{ path: `/${page}`, name: page, component: { render: () => null } }],
    })
    await router.push(`/${page}`)
    const w = mount(HelpDialog, {
      props: { modelValue, golferOpen: false },
      global: { plugins: [createVuetify(), router], stubs: { VDialog: inPlace } },
    })
    return w
  }
  it('shows what this page is for, and finds in the guide', async () => {
    const w = await open('screen')
    expect(w.get('article h2').text()).toBe('Screen')
    expect(w.get('article').text()).toContain('pain on this trial')
    expect(w.text()).not.toContain('Progress o')
    await w.get('input[type=search]').setValue('bell pepper')
    expect(w.text()).toContain('The guide says nothing of that')
    await w.get('input[type=search]').setValue('pennants')
    await w.get('.found button').trigger('click')
    expect(w.get('article h2').text()).toBe('Squad')
    w.unmount()
  })
})

it('a sign is a key unless letters are none, in a cell of numbers too where it says so', () => {
  let asked = 0
  inside(() => useLetter('?', () => asked++, { inNumbers: true }))
  useLetters().value = false
  press('?')
  expect(asked).toBe(0)
  useLetters().value = true
  press('?')
  const cell = document.body.appendChild(document.createElement('input'))
  cell.dispatchEvent(new KeyboardEvent('keydown', { key: '?', bubbles: true }))
  expect(asked).toBe(1)
  cell.inputMode = 'decimal'
  cell.setAttribute('inputmode', 'decimal')
  cell.dispatchEvent(new KeyboardEvent('keydown', { key: '?', bubbles: true }))
  expect(asked).toBe(2)
  cell.remove()
})

it('goes where a letter after g says, soon after, and leaves everything else alone', () => {
  vi.useFakeTimers()
  const went: string[] = []
  inside(() => useGo((letter) => went.push(letter)))
  press('p')
  press('g')
  expect(press('p').defaultPrevented).toBe(true)
  expect(press('p').defaultPrevented).toBe(false)
  press('g')
  vi.advanceTimersByTime(2000)
  press('s')
  press('g', { ctrlKey: true })
  press('s')
  expect(went).toEqual(['p'])
})
