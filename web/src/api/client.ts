import { MutationCache, QueryClient } from '@tanstack/vue-query'
import createClient from 'openapi-fetch'

import { fetchOrAhead } from './ahead'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']
export type FieldError = Schemas['FieldError']

/** What the server said went wrong, or that it could not be reached at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem | undefined,
  ) {
    super(
      problem?.detail ?? problem?.title ?? 'Dunnock cannot be reached. Check the connection; nothing typed is lost.',
    )
  }
  get fields(): FieldError[] {
    return this.problem?.errors ?? []
  }
  /** Nothing was wrong with the request: it can be sent again as it is. */
  get offline(): boolean {
    return [0, 502, 503, 504].includes(this.status)
  }
  /** What was done meanwhile and by whom, of a conflict. */
  get since(): string[] {
    return this.problem?.since ?? []
  }
}

export const api = createClient<paths>({
  baseUrl: `${globalThis.location?.origin ?? 'http://localhost'}/api/v1`,
  fetch: fetchOrAhead,
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Waits for an answer and returns its data; anything else becomes an ApiError. */
export async function must<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>
  try {
    got = await answer
  } catch {
    throw new ApiError(0, undefined)
  }
  if (!got.response.ok) throw new ApiError(got.response.status, got.error as Problem | undefined)
  return got.data as T
}

/** Told of what was asked for and could not reach the server; what waits in an outbox is not among it. */
export const unreached = { tell: (text: string) => console.warn(text) }

export const queryClient = new QueryClient({
  mutationCache: new MutationCache({
    onError: (error, _variables, _context, mutation) => {
      if (error instanceof ApiError && error.offline && !mutation.meta?.waits) unreached.tell(error.message)
    },
  }),
  defaultOptions: {
    // Without a network a question is asked all the same: it says so, or is answered from what is kept.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 15_000,
      // Answers are shown, never changed in place: what is inside them need not be watched piece by piece.
      shallow: true,
      retry: (count, error) => error instanceof ApiError && error.offline && navigator.onLine && count < 3,
    },
  },
})
