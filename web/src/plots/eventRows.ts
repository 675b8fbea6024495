/** How near two names stand before they cover each other, in pixels. */
const NEAR = 62

/** The row, 0 or 1, each event's name stands in: two rows where names would cover each other. */
export function eventRows(events: { key: string; at: number }[]): Map<string, number> {
  const rows = new Map<string, number>()
  let last = -Infinity
  let row = 0
  for (const e of [...events].sort((a, b) => a.at - b.at)) {
    row = e.at - last < NEAR ? 1 - row : 0
    rows.set(e.key, row)
    last = e.at
  }
  return rows
}
