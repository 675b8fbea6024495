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

/** A stream of server-sent events the test speaks into, in place of fetch. */
export class FakeSource {
  static last: FakeSource
  closed = false
  private out!: ReadableStreamDefaultController<Uint8Array>
  private constructor(
    readonly url: string,
    readonly body: string,
  ) {
    FakeSource.last = this
  }
  /** What fetch answers at an address of a stream. */
  static answer(url: string, init?: RequestInit): Response {
    const source = new FakeSource(url, String(init?.body ?? ''))
    init?.signal?.addEventListener('abort', () => {
      source.closed = true
    })
    return new Response(new ReadableStream<Uint8Array>({ start: (c) => void (source.out = c) }))
  }
  async say(e: object) {
    this.out.enqueue(new TextEncoder().encode(`data: ${JSON.stringify(e)}\n\n`))
    await settled()
  }
  async end() {
    this.out.close()
    await settled()
  }
}

/** Waits until what was said has been heard. */
export const settled = () => new Promise((r) => setTimeout(r, 5))
