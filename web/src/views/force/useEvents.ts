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

  async function place(key: string, t: number) {
    const r = recording()
    const kind = r.swing ? 'swing' : 'jump'
    moving.value = { key, t }
    before.value.push(r.settings)
    await save({ ...r.settings, [kind]: { ...r.settings[kind], [key]: t } })
  }
  async function save(settings: Recording['settings']) {
    refused.value = ''
    try {
      await change.mutateAsync({ id: recording().id, settings })
    } catch (e) {
      refused.value = `${(e as Error).message} The event went back to where it was.`
      before.value.pop()
    }
    moving.value = undefined
  }
  async function undo() {
    const settings = before.value.pop()
    if (settings) await save(settings)
  }
  return { moving, refused, before, change, placed, place, undo }
}
