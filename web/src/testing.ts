import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { mount } from '@vue/test-utils'
import { defineComponent, h } from 'vue'

/** What several tests need: none of it is part of the program. */

/** A dialog that shows its content where it stands, so that it can be looked at. */
export const inPlace = defineComponent({
  setup:
    (_, { slots }) =>
    () =>
      h('div', slots.default?.()),
})

/** Runs a composable inside a component, as it would be. */
export function inside<T>(use: () => T): T {
  let got!: T
  mount(
    { setup: () => ((got = use()), () => null) },
    {
      global: { plugins: [[VueQueryPlugin, { queryClient: new QueryClient() }]] },
    },
  )
  return got
}

/** A stream of server-sent events the test speaks into. */
export class FakeSource {
  static last: FakeSource
  onmessage?: (m: { data: string }) => void
  onerror?: () => void
  closed = false
  constructor(readonly url: string) {
    FakeSource.last = this
  }
  close() {
    this.closed = true
  }
  say(e: object) {
    this.onmessage?.({ data: JSON.stringify(e) })
  }
}
