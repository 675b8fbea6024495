import type { Schemas } from '@/api/client'

type Clearance = Schemas['Clearance']

/** Yes, no or not answered, for one question. */
export function answerOf(c: Clearance, id: string): 'yes' | 'no' | '' {
  if (c.yes.includes(id)) return 'yes'
  return c.answeredOn || c.no?.includes(id) ? 'no' : ''
}

/**
 * The clearance with a question answered. The questions count as answered once each has an answer; a yes counts at once.
 * Until then each no is kept by itself.
 */
export function withAnswer(
  before: Clearance,
  questions: Schemas['Question'][],
  id: string,
  yes: boolean,
  today: string,
): Clearance {
  const c: Clearance = { ...before, yes: before.yes.filter((x) => x !== id) }
  const noes = new Set(before.answeredOn ? [] : (before.no ?? []))
  noes.delete(id)
  if (yes) c.yes.push(id)
  else noes.add(id)
  const all = questions.every((q) => c.yes.includes(q.id) || noes.has(q.id))
  if (all || yes || c.answeredOn) c.answeredOn = today
  if (c.answeredOn || noes.size === 0) delete c.no
  else c.no = [...noes]
  return c
}

/** The clearance with no as the answer to every question that has none yet. */
export const allNo = (before: Clearance, questions: Schemas['Question'][], today: string): Clearance =>
  questions
    .filter((q) => answerOf(before, q.id) === '')
    .reduce((c, q) => withAnswer(c, questions, q.id, false, today), before)
