import { nextTick, onScopeDispose, type Ref, ref, watch } from 'vue'

/** Acts once what the page shows by now has been drawn, in a turn of its own; a page that nobody sees is not drawn. */
export function afterDrawn(act: () => void) {
  if (document.hidden) setTimeout(act)
  else requestAnimationFrame(() => setTimeout(act))
}

/** When this long was drawn, in ms, the page shows it and answers before it goes on. */
const TURN_MS = 40
const waiting: (() => void)[] = []
let going = false

/** Draws one part more when its turn comes: everything that is drawn in turns stands in one line. */
function inTurn(draw: () => void) {
  waiting.push(draw)
  if (going) return
  going = true
  afterDrawn(() => void turn())
}
async function turn() {
  const begun = performance.now()
  do {
    waiting.shift()?.()
    await nextTick()
  } while (waiting.length > 0 && performance.now() - begun < TURN_MS)
  if (waiting.length > 0) afterDrawn(() => void turn())
  else going = false
}

/**
 * How many parts of a long page may be drawn: the first ones at once, more in every turn after, until all are. The page
 * answers in between, and what is seen first is there first. While the page is not there yet, `all` is 0.
 */
export function useTurns(all: () => number, o: { first?: number; each?: number } = {}): Ref<number> {
  const drawn = ref(o.first ?? 1)
  let over = false
  let queued = false
  const next = () => {
    queued = false
    if (!over && drawn.value < all()) drawn.value += o.each ?? 1
  }
  watch(
    [drawn, all],
    () => {
      if (queued || drawn.value >= all()) return
      queued = true
      inTurn(next)
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => (over = true))
  return drawn
}
