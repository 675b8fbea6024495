import { useAthlete, useSaveAthlete } from '@/api/queries'
import { useSavedForm } from '@/parts/savedForm'

import { changeOf } from './change'

export type { Form } from './change'

/** The form of the intake: what the server holds of a golfer, edited here. */
export function useIntake(id: string) {
  const { data, error: loadError, refetch } = useAthlete(id)
  const save = useSaveAthlete(id)
  const form = useSavedForm({
    name: `intake.${id}`,
    data,
    refetch,
    formOf: changeOf,
    save: (changed) => save.mutateAsync(changed),
    field: (named) => named.replace(/^athlete\./, 'profile.'),
  })
  return { golfer: data, loadError, ...form }
}
