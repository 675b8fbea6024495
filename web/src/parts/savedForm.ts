import { onBeforeUnmount, type Ref, ref, watch } from 'vue'

import { useUi } from '@/app/ui'

import { createOutbox } from './outbox'

interface Revised {
  revision: number
}

export interface SavedFormOptions<F extends Revised, S extends Revised> {
  /** What is being written, such as `intake.<id>`. */
  name: string
  /** What the server holds. */
  data: Ref<S | undefined>
  refetch: () => Promise<unknown>
  /** What the server holds, to be edited: a copy. */
  formOf: (held: S | F) => F
  /** Saves the form and answers what the server holds then. */
  save: (form: F) => Promise<S>
  /** The field of the form an error of the server speaks of. */
  field?: (named: string) => string
}

const FORM = 'form'
const REST_MS = 500

/**
 * A form of what the server holds, saved a moment after the last change of it: what is typed waits while there is no
 * connection, what was refused is said where it stands, and changes are taken back one by one.
 */
export function useSavedForm<F extends Revised, S extends Revised>(o: SavedFormOptions<F, S>) {
  const ui = useUi()
  const form = ref<F>() as Ref<F | undefined>
  const wrong = ref<Record<string, string>>({})
  const conflict = ref('')
  /** What stood before each change that was saved, oldest first. */
  const before = ref<string[]>([])
  let clean = ''
  let refused = false
  let undoing = false
  let saving = false

  const outbox = createOutbox<F>({
    name: o.name,
    keyOf: () => FORM,
    ready: () => form.value !== undefined,
    held: () => refused || conflict.value !== '',
    async send([sent]) {
      if (!sent) return
      saving = true
      const saved = await o.save(JSON.parse(JSON.stringify(sent)) as F).finally(() => (saving = false))
      wrong.value = {}
      if (!undoing) before.value = [...before.value.slice(-49), clean]
      undoing = false
      clean = JSON.stringify({ ...sent, revision: saved.revision })
      if (form.value) form.value.revision = saved.revision
    },
    putMeanwhile: (typed) => ({ ...typed, revision: form.value?.revision ?? typed.revision }),
    refused(e) {
      refused = true
      wrong.value = Object.fromEntries(e.fields.map((f) => [o.field?.(f.field) ?? f.field, f.detail]))
      if (e.status === 409) conflict.value = e.message
    },
  })

  function take(held: S) {
    form.value = o.formOf(held)
    clean = JSON.stringify(form.value)
    const typed = outbox.waiting.get(FORM)
    if (!typed) return
    if (typed.revision === held.revision) {
      form.value = o.formOf(typed)
      outbox.later(0)
    } else outbox.drop(FORM) // somebody saved since; what they saved stands
  }
  const held = () => JSON.parse(JSON.stringify(o.data.value)) as S

  watch(
    o.data,
    (now) => {
      if (!now) return
      // Only take what the server holds when it is newer and nothing typed here would be lost: what is being saved may
      // have been taken back meanwhile, and what was asked for before a save may arrive after it.
      if (!form.value || (!saving && JSON.stringify(form.value) === clean && now.revision > form.value.revision))
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
      outbox.put(JSON.parse(text) as F)
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
      form.value = { ...(JSON.parse(clean) as F), revision }
      return
    }
    const last = before.value.at(-1)
    if (!last) return
    before.value = before.value.slice(0, -1)
    form.value = { ...(JSON.parse(last) as F), revision }
    undoing = JSON.stringify(form.value) !== clean
  }

  /** Shows what somebody else saved meanwhile. */
  async function reload() {
    outbox.drop(FORM)
    await o.refetch()
    if (o.data.value) take(held())
    conflict.value = ''
    refused = false
    wrong.value = {}
    ui.setSave('idle')
  }

  return { form, wrong, conflict, reload, before, takeBack }
}
