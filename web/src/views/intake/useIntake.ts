import { onBeforeUnmount, ref, watch } from 'vue'

import type { Schemas } from '@/api/client'
import { useAthlete, useSaveAthlete } from '@/api/queries'
import { useUi } from '@/app/ui'
import { createOutbox } from '@/parts/outbox'

import { changeOf, type Form } from './change'

export type { Form } from './change'

const FORM = 'form'
const REST_MS = 500

/** The form of the intake: what the server holds, edited here and saved a moment after the last change. */
export function useIntake(id: string) {
  const ui = useUi()
  const { data, error: loadError, refetch } = useAthlete(id)
  const save = useSaveAthlete(id)
  const form = ref<Form>()
  const wrong = ref<Record<string, string>>({})
  const conflict = ref('')
  /** What stood before each change that was saved, oldest first. */
  const before = ref<string[]>([])
  let clean = ''
  let refused = false
  let undoing = false
  let saving = false

  const outbox = createOutbox<Form>({
    name: `intake.${id}`,
    keyOf: () => FORM,
    ready: () => form.value !== undefined,
    held: () => refused || conflict.value !== '',
    async send([sent]) {
      if (!sent) return
      saving = true
      const saved = await save.mutateAsync(JSON.parse(JSON.stringify(sent)) as Form).finally(() => (saving = false))
      wrong.value = {}
      if (!undoing) before.value = [...before.value.slice(-49), clean]
      undoing = false
      clean = JSON.stringify({ ...sent, revision: saved.revision })
      if (form.value) form.value.revision = saved.revision
    },
    putMeanwhile: (typed) => ({ ...typed, revision: form.value?.revision ?? typed.revision }),
    refused(e) {
      refused = true
      wrong.value = Object.fromEntries(e.fields.map((f) => [f.field.replace(/^athlete\./, 'profile.'), f.detail]))
      if (e.status === 409) conflict.value = e.message
    },
  })

  function take(a: Schemas['Athlete']) {
    form.value = changeOf(a)
    clean = JSON.stringify(form.value)
    const typed = outbox.waiting.get(FORM)
    if (!typed) return
    if (typed.revision === a.revision) {
      form.value = changeOf(typed)
      outbox.later(0)
    } else outbox.drop(FORM) // somebody saved since; what they saved stands
  }
  const held = () => JSON.parse(JSON.stringify(data.value)) as Schemas['Athlete']

  watch(
    data,
    (a) => {
      if (!a) return
      // Only take what the server holds when it is newer and nothing typed here would be lost: what is being saved may
      // have been taken back meanwhile, and what was asked for before a save may arrive after it.
      if (!form.value || (!saving && JSON.stringify(form.value) === clean && a.revision > form.value.revision))
        take(held())
    },
    { immediate: true },
  )
  watch(
    form,
    (now) => {
      const text = JSON.stringify(now)
      if (text === clean) {
        outbox.drop(FORM)
        return
      }
      refused = false
      outbox.put(JSON.parse(text) as Form)
      outbox.later(REST_MS)
    },
    { deep: true },
  )
  onBeforeUnmount(outbox.close)

  /** Takes back the last change: one that is not saved yet by leaving it, else by saving what stood before it. */
  function takeBack() {
    if (!form.value) return
    const { revision } = form.value
    if (JSON.stringify(form.value) !== clean) {
      form.value = { ...(JSON.parse(clean) as Form), revision }
      return
    }
    const last = before.value.at(-1)
    if (!last) return
    before.value = before.value.slice(0, -1)
    form.value = { ...(JSON.parse(last) as Form), revision }
    undoing = JSON.stringify(form.value) !== clean
  }

  async function reload() {
    outbox.drop(FORM)
    await refetch()
    if (data.value) take(held())
    conflict.value = ''
    refused = false
    ui.setSave('idle')
  }

  return { golfer: data, form, wrong, conflict, loadError, reload, before, takeBack }
}
