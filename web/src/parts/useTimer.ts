import { computed, onScopeDispose, ref } from 'vue'

/** One timed thing to do. */
export interface TimedStep {
  id: string
  name: string
  seconds: number
  /** What is done, in a few words: "5 a side", "3 swings, 70%". */
  dose?: string
  cue?: string
  /** Called out large: which side, which hand. */
  side?: string
  /** It is rested. */
  rest?: boolean
  /** Where it stands among its like: "2 of 5". */
  count?: string
}

export interface TimerOptions {
  /** The time in ms, as the clock on the wall says it: it goes on while the screen sleeps. */
  now?: () => number
  /** Told of a sound to make: the last three seconds, a new step, the end. */
  sound?: (kind: 'tick' | 'step' | 'end') => void
}

const BEAT_MS = 100
const TICKS = [3, 2, 1]

/**
 * Walks through timed steps by the clock on the wall: what is left is worked out from when a step began, never counted
 * down, so that a hidden tab or a sleeping screen neither stops nor slows it. Paused time does not count.
 */
export function useTimer(steps: () => TimedStep[], o: TimerOptions = {}) {
  const now = o.now ?? (() => Date.now())
  const index = ref(0)
  const running = ref(false)
  const done = ref(false)
  /** When the step began, pauses taken off. */
  const began = ref(0)
  let pausedAt = 0
  let ticked = 0
  let timer: ReturnType<typeof setInterval> | undefined
  const at = ref(0)

  const step = computed(() => steps()[index.value])
  const next = computed(() => steps()[index.value + 1])
  const elapsed = computed(() => Math.max(0, (at.value - began.value) / 1000))
  const left = computed(() => Math.max(0, (step.value?.seconds ?? 0) - elapsed.value))
  const share = computed(() => Math.min(1, elapsed.value / Math.max(1, step.value?.seconds ?? 1)))
  /** Seconds of everything still to do. */
  const leftInAll = computed(
    () =>
      left.value +
      steps()
        .slice(index.value + 1)
        .reduce((s, x) => s + x.seconds, 0),
  )

  function beat() {
    if (!running.value) return
    at.value = now()
    let moved = false
    while (step.value && elapsed.value >= step.value.seconds) {
      // What passed beyond the step belongs to the next: the screen may have slept through several.
      began.value += step.value.seconds * 1000
      if (index.value + 1 >= steps().length) return finish()
      index.value++
      ticked = 0
      moved = true
    }
    if (moved) o.sound?.('step')
    const whole = Math.ceil(left.value)
    if (TICKS.includes(whole) && ticked !== whole && (step.value?.seconds ?? 0) > 6) {
      ticked = whole
      o.sound?.('tick')
    }
  }
  function finish() {
    at.value = began.value
    index.value = Math.max(0, steps().length - 1)
    done.value = true
    stop()
    o.sound?.('end')
  }
  function start() {
    if (steps().length === 0) return
    index.value = 0
    done.value = false
    at.value = began.value = now()
    ticked = 0
    go()
    o.sound?.('step')
  }
  function go() {
    running.value = true
    clearInterval(timer)
    timer = setInterval(beat, BEAT_MS)
  }
  function stop() {
    running.value = false
    clearInterval(timer)
  }
  function pause() {
    if (!running.value) return
    beat()
    pausedAt = now()
    stop()
  }
  function resume() {
    if (running.value || done.value || !step.value) return
    const away = now() - pausedAt
    began.value += away
    at.value = now()
    go()
  }
  function to(i: number) {
    if (i < 0 || i >= steps().length) return
    index.value = i
    done.value = false
    ticked = 0
    at.value = began.value = now()
    if (!running.value) pausedAt = now()
    o.sound?.('step')
  }
  const skip = () => (index.value + 1 < steps().length ? to(index.value + 1) : finish())
  /** Back to the start of this step, or to the one before within its first three seconds. */
  const back = () => to(elapsed.value > 3 || index.value === 0 ? index.value : index.value - 1)

  const shown = () => beat()
  document.addEventListener('visibilitychange', shown)
  onScopeDispose(() => {
    stop()
    document.removeEventListener('visibilitychange', shown)
  })
  return {
    index,
    running,
    done,
    step,
    next,
    elapsed,
    left,
    share,
    leftInAll,
    start,
    pause,
    resume,
    stop,
    skip,
    back,
    beat,
  }
}
