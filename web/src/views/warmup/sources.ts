import { api, must } from '@/api/client'

import type { Source } from './useWarmUp'

const blob = (answer: unknown) => answer as Promise<Blob>

/** A golfer's warm-up. */
export function ofGolfer(athlete: string): Source {
  const params = { path: { athleteId: athlete } }
  return {
    key: athlete,
    build: (body, now) =>
      must(
        api.POST('/athletes/{athleteId}/warmups/build', {
          params: { ...params, ...(now ? { query: { now } } : {}) },
          body,
        }),
      ),
    judge: (request, items, mend) =>
      must(
        api.POST('/athletes/{athleteId}/warmups/judge', {
          params,
          body: { request, items, ...(mend ? { mend } : {}) },
        }),
      ),
    alternatives: (request, items, phase) =>
      must(api.POST('/athletes/{athleteId}/warmups/alternatives', { params, body: { request, items, phase } })),
    card: (request, items) =>
      blob(
        must(api.POST('/athletes/{athleteId}/warmups/card.pdf', { params, body: { request, items }, parseAs: 'blob' })),
      ),
  }
}

/** One warm-up for those who stand in line. */
export function ofGroup(line: () => string[]): Source {
  return {
    key: 'group',
    build: (request, now) =>
      must(api.POST('/group-warmups', { body: { athletes: line(), request, ...(now ? { now } : {}) } })),
    judge: (request, items, mend) =>
      must(api.POST('/group-warmups', { body: { athletes: line(), request, items, ...(mend ? { mend } : {}) } })),
    alternatives: (request, items, phase) =>
      must(
        api.POST('/group-warmups/alternatives', {
          params: { query: { phase } },
          body: { athletes: line(), request, items },
        }),
      ),
    card: (request, items) =>
      blob(must(api.POST('/group-warmups/card.pdf', { body: { athletes: line(), request, items }, parseAs: 'blob' }))),
  }
}
