import { describe, expect, it } from 'vitest'

import { at, channel, readTrace, thinned, ticks } from './trace'

/** A trace as the server writes it. */
function written(samples: number[][]): ArrayBuffer {
  const head = {
    rateHz: 1000,
    startS: 2,
    samples: samples[0]?.length ?? 0,
    channels: samples.map((_, i) => ({ foot: i ? 'lead' : 'both', name: i ? 'up' : 'vertical', unit: 'N' })),
  }
  let text = JSON.stringify(head)
  while ((text.length + 4) % 8) text += ' '
  const out = new ArrayBuffer(4 + text.length + 4 * samples.length * head.samples)
  const view = new DataView(out)
  view.setUint32(0, text.length, true)
  new Uint8Array(out, 4).set(new TextEncoder().encode(text))
  samples.flat().forEach((v, i) => view.setFloat32(4 + text.length + 4 * i, v, true))
  return out
}

describe('a trace', () => {
  it('is read channel by channel', () => {
    const t = readTrace(
      written([
        [1, 2, 3],
        [4, 5.5, -6],
      ]),
    )
    expect(t.rateHz).toBe(1000)
    expect(t.startS).toBe(2)
    expect([...(channel(t, 'both', 'vertical') ?? [])]).toEqual([1, 2, 3])
    expect([...(channel(t, 'lead', 'up') ?? [])]).toEqual([4, 5.5, -6])
    expect(channel(t, 'trail', 'up')).toBeUndefined()
    expect(channel(undefined, 'lead', 'up')).toBeUndefined()
  })

  it('has nothing beyond its ends', () => {
    expect(at(new Float32Array([7]), 0)).toBe(7)
    expect(at(new Float32Array([7]), 5)).toBe(0)
    expect(at(undefined, 0)).toBe(0)
  })
})

describe('thinning for drawing', () => {
  it('keeps every peak and dip, in the order they came', () => {
    const y = new Float32Array(120_000)
    y[31_007] = 900
    y[77_345] = -40
    const out = thinned(y, 0, y.length - 1, 700)
    expect(out.length).toBeLessThanOrEqual(4 * 700)
    const places = out.filter((_, i) => i % 2 === 0)
    const values = out.filter((_, i) => i % 2 === 1)
    expect(Math.max(...values)).toBe(900)
    expect(Math.min(...values)).toBe(-40)
    expect(places[values.indexOf(900)]).toBe(31_007)
    expect(places).toEqual([...places].sort((a, b) => a - b))
  })

  it('leaves few samples as they are, and stays within the signal', () => {
    const y = new Float32Array([1, 2, 3, 4])
    expect(thinned(y, 0, 3, 700)).toEqual([0, 1, 1, 2, 2, 3, 3, 4])
    expect(thinned(y, -5, 90, 700)).toEqual([0, 1, 1, 2, 2, 3, 3, 4])
    expect(thinned(y, 1.2, 2, 700)).toEqual([1, 2, 2, 3])
  })
})

describe('ticks', () => {
  it('are round and within', () => {
    expect(ticks(0, 2300, 5)).toEqual([0, 500, 1000, 1500, 2000])
    expect(ticks(-52, 108, 4)).toEqual([-50, 0, 50, 100])
    expect(ticks(3, 3, 5)).toEqual([3])
    expect(ticks(-0.1, 0.1, 2).some((t) => Object.is(t, -0))).toBe(false)
  })
})
