import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, shallowRef } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

import { fileBody, type Recording } from './useForce'

type FileBody = ReturnType<typeof fileBody>

export type Look = Schemas['ForceLook']
export type Mapping = Schemas['ForceMapping']
export type Kind = 'jump' | 'squat' | 'swing'

export interface Row {
  file: File
  state: 'waiting' | 'reading' | 'in' | 'refused' | 'left'
  text: string
  recording?: Recording
  /** Whose file it is. */
  golfer: string
}

/** The golfer a file names: all words of exactly one name stand in it. */
export function named(file: string, golfers: { id: string; name: string }[]): string | undefined {
  const text = ` ${file.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ')} `
  const found = golfers.filter((g) =>
    g.name
      .toLowerCase()
      .split(/\s+/)
      .every((w) => text.includes(` ${w} `)),
  )
  return found.length === 1 ? found[0]?.id : undefined
}

/** What one golfer's files are brought in as. */
export interface Choice {
  kind: Kind
  date: string
  side: 'right' | 'left'
  club: string
  impactS?: number
  fill: boolean
}

/** The largest batch, and how many files are on their way at once. */
export const MAX_FILES = 200
const AT_ONCE = 2

/**
 * Brings in a batch of files: the first one is looked at and mapped, then all are sent, a few at a time. Every file
 * gets a verdict of its own; what was not sent yet can be stopped, what came in can be taken back.
 */
export function useBringIn(athleteId: () => string, golfers: () => { id: string; name: string }[] = () => []) {
  const client = useQueryClient()
  const rows = ref<Row[]>([])
  const look = shallowRef<Look>()
  const problem = ref('')
  const running = ref(false)
  const stopped = ref(false)
  const done = computed(() => rows.value.filter((r) => r.state !== 'waiting' && r.state !== 'reading').length)
  const arrived = computed(() => rows.value.filter((r) => r.state === 'in'))

  function choose(files: File[]) {
    problem.value =
      files.length > MAX_FILES ? `At most ${MAX_FILES} files at once: the first ${MAX_FILES} are taken.` : ''
    rows.value = files.slice(0, MAX_FILES).map((file) => ({
      file,
      state: 'waiting',
      text: '',
      golfer: named(file.name, golfers()) ?? athleteId(),
    }))
    look.value = undefined
  }

  /** The hash of a file the server has looked at: it may be held there. */
  const hashes = new WeakMap<File, string>()
  /** Names the file where the server may hold it, and sends it where that is not so. */
  async function sendOnce<T>(file: File, ask: (hash: string | undefined, body: FileBody) => Promise<T>): Promise<T> {
    const hash = hashes.get(file)
    if (!hash) return ask(undefined, fileBody(file))
    try {
      return await ask(hash, fileBody(new Blob()))
    } catch (e) {
      if (!(e instanceof ApiError) || e.status !== 404) throw e
      hashes.delete(file)
      return ask(undefined, fileBody(file))
    }
  }

  async function lookAt(file: File, side: 'right' | 'left', mapping?: Mapping) {
    problem.value = ''
    try {
      look.value = await sendOnce(file, (hash, body) =>
        must(
          api.POST('/force-files/look', {
            params: { query: { side, mapping: mapping ? JSON.stringify(mapping) : undefined, hash } },
            ...body,
          }),
        ),
      )
      hashes.set(file, look.value.hash)
    } catch (e) {
      look.value = undefined
      problem.value = (e as Error).message
    }
  }

  async function remember(fingerprint: string, mapping: Mapping) {
    await must(api.PUT('/force-mappings/{fingerprint}', { params: { path: { fingerprint } }, body: mapping }))
  }

  async function send(row: Row, choice: Choice) {
    row.state = 'reading'
    try {
      const { kind, date, side, club, impactS, fill } = choice
      const query = {
        name: row.file.name,
        kind,
        date,
        // Another golfer's file is of the side they play from.
        side: row.golfer === athleteId() ? side : undefined,
        club: club || undefined,
        impactS,
        fill,
      }
      row.recording = await sendOnce(row.file, (hash, body) =>
        must(
          api.POST('/athletes/{athleteId}/recordings', {
            params: { path: { athleteId: row.golfer }, query: { ...query, hash } },
            ...body,
          }),
        ),
      )
      row.state = 'in'
      row.text = row.recording.verdict
    } catch (e) {
      row.state = 'refused'
      row.text = (e as Error).message
      if (e instanceof ApiError && e.offline) stopped.value = true
    }
  }

  async function run(choice: Choice) {
    running.value = true
    stopped.value = false
    const queue = rows.value.filter((r) => r.state === 'waiting' || r.state === 'left')
    const worker = async () => {
      for (let row = queue.shift(); row; row = queue.shift()) {
        if (stopped.value) {
          row.state = 'left'
          row.text = 'Not sent: stopped.'
        } else await send(row, choice)
      }
    }
    await Promise.all(Array.from({ length: AT_ONCE }, worker))
    running.value = false
    await refresh()
  }

  async function takeBack() {
    for (const row of arrived.value) {
      if (!row.recording) continue
      await must(api.DELETE('/recordings/{recordingId}', { params: { path: { recordingId: row.recording.id } } }))
      row.state = 'left'
      row.text = 'Taken back.'
      row.recording = undefined
    }
    await refresh()
  }

  async function refresh() {
    await Promise.all(
      [keys.force(), keys.screens(), keys.screen(), keys.read(), keys.athlete()].map((queryKey) =>
        client.invalidateQueries({ queryKey }),
      ),
    )
  }

  return {
    rows,
    look,
    problem,
    running,
    done,
    arrived,
    choose,
    lookAt,
    remember,
    run,
    stop: () => (stopped.value = true),
    takeBack,
  }
}
