/** A recording's signals in full, as the server sends them: docs/formats.md, "Traces". */
export interface Channel {
  foot: 'lead' | 'trail' | 'total' | 'both'
  name: string
  unit: string
  values: Float32Array
}

export interface Trace {
  rateHz: number
  startS: number
  samples: number
  channels: Channel[]
}

/** Reads the binary answer: the length of a JSON head, the head, then 32-bit numbers channel by channel. */
export function readTrace(buffer: ArrayBuffer): Trace {
  const size = new DataView(buffer).getUint32(0, true)
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, size))) as {
    rateHz: number
    startS: number
    samples: number
    channels: Omit<Channel, 'values'>[]
  }
  return {
    ...head,
    channels: head.channels.map((c, i) => ({
      ...c,
      values: new Float32Array(buffer, 4 + size + 4 * i * head.samples, head.samples),
    })),
  }
}

/** Value i of a signal; 0 beyond its ends. */
export const at = (y: Float32Array | number[] | undefined, i: number): number => y?.[i] ?? 0

export function channel(trace: Trace | undefined, foot: string, name: string): Float32Array | undefined {
  return trace?.channels.find((c) => c.foot === foot && c.name === name)?.values
}

/**
 * What of a signal is drawn between two samples: where there are more of them than columns, the lowest and the highest
 * of each column in the order they came, so that no peak is lost. Places and values in turn.
 */
export function thinned(values: Float32Array, from: number, to: number, columns: number): number[] {
  const first = Math.max(0, Math.floor(from))
  const last = Math.min(values.length - 1, Math.ceil(to))
  const step = (last - first + 1) / columns
  const out: number[] = []
  if (step <= 2) {
    for (let i = first; i <= last; i++) out.push(i, at(values, i))
    return out
  }
  for (let c = 0; c < columns; c++) {
    const a = first + Math.floor(c * step)
    const b = Math.min(last, first + Math.floor((c + 1) * step) - 1)
    let low = a
    let high = a
    for (let i = a; i <= b; i++) {
      if (at(values, i) < at(values, low)) low = i
      if (at(values, i) > at(values, high)) high = i
    }
    const one = Math.min(low, high)
    const two = Math.max(low, high)
    out.push(one, at(values, one))
    if (two !== one) out.push(two, at(values, two))
  }
  return out
}

/** Round steps for an axis: about so many between two values. */
export function ticks(low: number, high: number, about: number): number[] {
  const span = high - low
  if (!(span > 0)) return [low]
  const raw = span / about
  const power = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 5, 10].map((k) => k * power).find((k) => k >= raw) ?? raw
  const out: number[] = []
  for (let t = Math.ceil(low / step - 1e-9) * step; t <= high + step * 1e-9; t += step)
    out.push(Math.abs(t) < step * 1e-9 ? 0 : t)
  return out
}
