import { onBeforeUnmount, onScopeDispose, ref } from 'vue'

const whenIdle = (work: () => void) =>
  typeof requestIdleCallback === 'function' ? requestIdleCallback(work) : setTimeout(work, 200)

/** Short sounds for what a clock has to say; silent where the browser makes none. */
export function useSound() {
  const silent = ref(false)
  let audio: AudioContext | undefined
  /** Gets ready to sound when nothing else is to be done: it takes a while, and the first tap is not to wait for it. */
  const ready = () => whenIdle(open)
  function open() {
    try {
      audio ??= new AudioContext()
    } catch {
      silent.value = true // no sound here: the picture says it all
    }
  }
  /** Sounds once the work at hand is done: what a tap changes is drawn first. */
  const sound = (kind: 'tick' | 'step' | 'end') => setTimeout(() => play(kind))
  function play(kind: 'tick' | 'step' | 'end') {
    if (silent.value) return
    open()
    if (audio?.state === 'suspended') void audio.resume()
    const tones = { tick: [660], step: [990], end: [990, 1320] }[kind]
    tones.forEach((hz, k) => {
      if (!audio) return
      const o = audio.createOscillator()
      const g = audio.createGain()
      o.frequency.value = hz
      g.gain.value = 0.12
      o.connect(g).connect(audio.destination)
      o.start(audio.currentTime + k * 0.22)
      o.stop(audio.currentTime + k * 0.22 + (kind === 'tick' ? 0.08 : 0.18))
    })
  }
  onScopeDispose(() => void audio?.close())
  return { silent, sound, ready }
}

interface Lock {
  release: () => Promise<void>
}

/** Keeps the screen awake where the browser can. */
export function useAwake() {
  let awake: Lock | undefined
  async function hold() {
    try {
      const w = (navigator as unknown as { wakeLock?: { request: (k: 'screen') => Promise<Lock> } }).wakeLock
      awake = await w?.request('screen')
    } catch {
      awake = undefined
    }
  }
  const release = () => void awake?.release().catch(() => undefined)
  onBeforeUnmount(release)
  return { hold, release }
}

/** Seconds as a clock shows them: 45, 1:30. */
export function clockWords(seconds: number): string {
  const n = Math.ceil(seconds - 1e-6)
  return n >= 60 ? `${Math.floor(n / 60)}:${String(n % 60).padStart(2, '0')}` : String(n)
}
