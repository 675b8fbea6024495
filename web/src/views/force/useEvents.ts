import { ref } from 'vue'

import { type Recording, useForceEdits } from './useForce'

/**
 * Events of a recording that are placed by hand: where one stands while it is moved, the recording read anew once it
 * rests, the step back, and the words where the server refuses the place.
 */
export function useEvents(recording: () => Recording) {
  const { change } = useForceEdits(() => recording().athleteId)
  const moving = ref<{ key: string; t: number }>()
  const refused = ref('')
  const before = ref<Recording['settings'][]>([])

  /** The event's own place, or where it is being moved to. */
  const placed = (key: string, t: number) => (moving.value?.key === key ? moving.value.t : t)

  // One save at a time, the last wish next: moves that follow each other quickly never overtake one another.
  let latest: Recording['settings'] | undefined
  let waiting = false
  let sending: Promise<void> | undefined

  async function place(key: string, t: number) {
    const r = recording()
    const kind = r.swing ? 'swing' : 'jump'
    const from = latest ?? r.settings
    moving.value = { key, t }
    if (!sending) before.value.push(r.settings) // a series of moves is one step back
    await save({ ...from, [kind]: { ...from[kind], [key]: t } })
  }
  function save(settings: Recording['settings']) {
    latest = settings
    waiting = true
    sending ??= send().finally(() => (sending = latest = undefined))
    return sending
  }
  async function send() {
    refused.value = ''
    while (waiting && latest) {
      waiting = false
      try {
        await change.mutateAsync({ id: recording().id, settings: latest })
      } catch (e) {
        refused.value = `${(e as Error).message} The event went back to where it was.`
        before.value.pop()
        break
      }
    }
    moving.value = undefined
  }
  async function undo() {
    const settings = before.value.pop()
    if (settings) await save(settings)
  }
  return { moving, refused, before, change, placed, place, undo }
}
