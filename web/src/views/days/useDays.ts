import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { type MaybeRefOrGetter, toValue } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

export function useDays() {
  return useQuery({ queryKey: keys.days(), queryFn: () => must(api.GET('/days')) })
}

export function useDay(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.day(id),
    queryFn: () => must(api.GET('/days/{dayId}', { params: { path: { dayId: toValue(id) } } })),
  })
}

/** Plans a day; stored unless the request says it is dry. */
export function usePlanDay() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['DayRequest']) => must(api.POST('/days', { body })),
    onSuccess: (d) => (d.id ? client.invalidateQueries({ queryKey: keys.days() }) : undefined),
  })
}

export function useDeleteDay() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: (dayId: string) => must(api.DELETE('/days/{dayId}', { params: { path: { dayId } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.days() }),
  })
}

/** What the plan's numbers mean, in words. */
export function planWords(d: Schemas['Day']): string {
  const p = d.plan
  const over = p.minutes - p.lowerBound
  const bound =
    over === 0
      ? `no order can be shorter (bound by ${p.why})`
      : `at best ${p.lowerBound} min were possible (bound by ${p.why}), so at most ${over} min are lost`
  return `${p.minutes} min for ${d.golfers.length} golfers; ${bound}. ${p.walks} walks, ${p.waiting} golfer-minutes of waiting.`
}
