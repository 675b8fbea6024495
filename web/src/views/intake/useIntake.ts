import { useDebounceFn } from '@vueuse/core'
import { onBeforeUnmount, ref, watch } from 'vue'

import { ApiError, type Schemas } from '@/api/client'
import { useAthlete, useSaveAthlete } from '@/api/queries'
import { useUi } from '@/app/ui'
import { unsentKey } from '@/parts/unsent'

/**
 * The form of the intake: what the server holds, edited here and saved a moment after the last change. What is not
 * saved yet is kept in the browser too, so that a reload loses nothing.
 */
export function useIntake(id: string) {
  const ui = useUi()
  const { data, error: loadError, refetch } = useAthlete(id)
  const save = useSaveAthlete(id)
  const form = ref<Schemas['AthleteChange']>()
  const wrong = ref<Record<string, string>>({})
  const conflict = ref('')
  let clean = ''
  let pending = false
  let undoing = false
  const before = ref<string[]>([])
  const store = unsentKey(`intake.${id}`)

  function take(a: Schemas['Athlete']) {
    form.value = structuredClone({
      revision: a.revision,
      profile: a.profile,
      clearance: a.clearance,
      consent: a.consent,
      limits: a.limits,
      training: a.training,
      competitions: a.competitions,
      school: a.school,
      otherSideShare: a.otherSideShare,
      startDate: a.startDate,
    })
    clean = JSON.stringify(form.value)
    const kept = localStorage.getItem(store)
    if (!kept) return
    const typed = JSON.parse(kept) as Schemas['AthleteChange']
    if (typed.revision === a.revision) form.value = typed
    else localStorage.removeItem(store) // somebody saved since; what they saved stands
  }

  watch(
    data,
    (a) => {
      if (!a) return
      // Only take what the server holds when nothing typed here would be lost.
      if (!form.value || (JSON.stringify(form.value) === clean && a.revision !== form.value.revision))
        take(JSON.parse(JSON.stringify(a)))
    },
    { immediate: true },
  )

  async function send() {
    if (!form.value || pending || conflict.value || JSON.stringify(form.value) === clean) return
    pending = true
    const sent = JSON.stringify(form.value)
    ui.setSave('saving')
    try {
      const saved = await save.mutateAsync(JSON.parse(sent))
      wrong.value = {}
      if (!undoing) before.value = [...before.value.slice(-49), clean]
      undoing = false
      form.value.revision = saved.revision
      clean = JSON.stringify({ ...JSON.parse(sent), revision: saved.revision })
      if (JSON.stringify(form.value) === clean) {
        localStorage.removeItem(store)
        ui.setSave('saved')
      } else void later()
    } catch (error) {
      const e = error as ApiError
      wrong.value = Object.fromEntries(e.fields.map((f) => [f.field.replace(/^athlete\./, 'profile.'), f.detail]))
      if (e.status === 409) conflict.value = e.message
      ui.setSave(e.offline ? 'unsent' : 'refused', e.message)
      if (e.offline) setTimeout(() => void send(), 3000)
    } finally {
      pending = false
    }
  }
  const later = useDebounceFn(send, 500)

  watch(
    form,
    (now) => {
      if (JSON.stringify(now) === clean) {
        localStorage.removeItem(store)
        return
      }
      localStorage.setItem(store, JSON.stringify(now))
      ui.setSave('saving')
      void later()
    },
    { deep: true },
  )
  onBeforeUnmount(() => void send())

  /** Takes back the last saved change, by saving what stood before it. */
  function takeBack() {
    const last = before.value.at(-1)
    if (!last || !form.value) return
    before.value = before.value.slice(0, -1)
    undoing = true
    form.value = { ...(JSON.parse(last) as Schemas['AthleteChange']), revision: form.value.revision }
  }

  async function reload() {
    localStorage.removeItem(store)
    const fresh = await refetch()
    if (fresh.data) take(JSON.parse(JSON.stringify(fresh.data)))
    conflict.value = ''
    ui.setSave('idle')
  }

  return { golfer: data, form, wrong, conflict, loadError, reload, before, takeBack }
}
