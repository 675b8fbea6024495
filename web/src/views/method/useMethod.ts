import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

export type Rule = Schemas['RuleView']
export type School = Schemas['School']
export type Numbers = Schemas['RuleNumbers']

/** The practice's rules: what they catch, and changing their numbers. */
export function useRules() {
  const client = useQueryClient()
  const list = useQuery({ queryKey: keys.rules(), queryFn: () => must(api.GET('/rules')) })
  const path = (rule: string) => ({ params: { path: { rule } } })
  const attempt = useMutation({
    mutationFn: (o: { rule: string; numbers: Numbers }) =>
      must(api.POST('/rules/{rule}/try', { ...path(o.rule), body: { numbers: o.numbers } })),
  })
  const change = useMutation({
    mutationFn: (o: { rule: string; numbers: Numbers; reason: string }) =>
      must(api.PUT('/rules/{rule}', { ...path(o.rule), body: { numbers: o.numbers, reason: o.reason } })),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.rules() }),
        client.invalidateQueries({ queryKey: keys.programme() }),
      ]),
  })
  return { data: list.data, error: list.error, attempt, change }
}

/** The schools to choose from, and the practice's own. */
export function useSchools() {
  const client = useQueryClient()
  const list = useQuery({ queryKey: keys.schools(), queryFn: () => must(api.GET('/schools')) })
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keys.schools() }),
      client.invalidateQueries({ queryKey: keys.meta() }),
      client.invalidateQueries({ queryKey: keys.read() }),
    ])
  const save = useMutation({
    mutationFn: (school: School) => must(api.POST('/schools', { body: school as unknown as Record<string, unknown> })),
    onSuccess: done,
  })
  const remove = useMutation({
    mutationFn: (schoolId: string) => must(api.DELETE('/schools/{schoolId}', { params: { path: { schoolId } } })),
    onSuccess: done,
  })
  return { data: list.data, error: list.error, save, remove }
}

/** A rule's sentence in pieces: words, and the names of its numbers. */
export function pieces(template: string): { text?: string; number?: string }[] {
  return template
    .split(/(\{\w+\})/)
    .filter(Boolean)
    .map((p) => (p.startsWith('{') ? { number: p.slice(1, -1) } : { text: p }))
}

/** The qualities a school weighs, as they are called. */
export const qualities: [string, string][] = [
  ['maximal-strength', 'Maximal strength'],
  ['vertical-power', 'Vertical power'],
  ['horizontal-power', 'Horizontal power'],
  ['rotational-power', 'Rotational power'],
  ['ground-force', 'Ground force'],
  ['mobility', 'Mobility'],
  ['separation', 'Separation'],
  ['stretch-use', 'Stretch use'],
  ['control', 'Control'],
  ['grip', 'Grip'],
]
const names = new Map([...qualities, ['*', 'any']])
export const qualityName = (id: string) => names.get(id) ?? id
export const listed = (ids: string[]) => ids.map((q) => qualityName(q).toLowerCase()).join(', ') || 'nothing'

/** The zones of the sets, from fast and light to slow, and range. */
export const zones = ['Z1', 'Z2', 'Z3', 'Z4', 'Z5', 'M'] as const
export const zoneWords: Record<(typeof zones)[number], string> = {
  Z1: 'fast and light',
  Z2: 'fast, some load',
  Z3: 'explosive with load',
  Z4: 'strength',
  Z5: 'endurance, grip',
  M: 'range and control',
}
/** How the stages of a school follow each other. */
export const nextWords: Record<string, string> = {
  block: 'a stage every block',
  met: 'the next stage once nothing clear is left in one',
}
