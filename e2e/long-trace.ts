import { expect, test } from './walk'

import { golferId, signIn } from './helpers'

/** How a minute of 16 channels at 2,000 Hz feels: brought in, opened, scrubbed, zoomed. Measured, not asserted. */

/** A golfer who stands for a minute and swings in the middle of it, on two plates, with four channels more. */
function minute(): string {
  const rate = 2000
  const rows = [
    'time,Fx_lead,Fy_lead,Fz_lead,CoPx_lead,CoPy_lead,Tz_lead,Fx_trail,Fy_trail,Fz_trail,CoPx_trail,CoPy_trail,Tz_trail,EMG 1,EMG 2,EMG 3,impact',
  ]
  const bell = (t: number, at: number, width: number) => Math.exp(-(((t - at) / width) ** 2))
  for (let i = 0; i < 60 * rate; i++) {
    const t = i / rate
    const n = () => (Math.random() - 0.5) * 6
    const push = 500 * bell(t, 29.93, 0.06)
    const side = 150 * bell(t, 29.86, 0.06) - 60 * bell(t, 29.3, 0.2)
    const turn = 90 * bell(t, 29.9, 0.06) - 40 * bell(t, 29.2, 0.2)
    const feet = [1, -1].map((s) =>
      [side / 2 + n(), -s * turn + n(), 390 + push / 2 + n(), s * 0.23, 0.03, turn * 0.1]
        .map((v) => v.toFixed(3))
        .join(','),
    )
    rows.push(
      `${t.toFixed(4)},${feet.join(',')},${n().toFixed(3)},${n().toFixed(3)},${n().toFixed(3)},${i === 60000 ? 1 : 0}`,
    )
  }
  return rows.join('\n')
}

const middle = (v: number[]) => [...v].sort((a, b) => a - b)[Math.floor(v.length / 2)] ?? 0

test('a minute of 16 channels at 2,000 Hz', async ({ page }) => {
  test.setTimeout(180_000)
  await signIn(page)
  const id = await golferId(page, 'Magnus Quoyle')
  const file = minute()
  const begin = Date.now()
  const answer = await page.request.post(
    `/api/v1/athletes/${id}/recordings?name=minute.csv&kind=swing&fill=false&topS=29.7`,
    {
      headers: { 'Content-Type': 'application/octet-stream' },
      data: Buffer.from(file),
    },
  )
  expect(answer.status(), await answer.text()).toBe(201)
  const recording = (await answer.json()) as { id: string }
  console.log(`brought in: ${(file.length / 1e6).toFixed(1)} MB in ${Date.now() - begin} ms`)

  const open = Date.now()
  await page.goto(`/golfers/${id}/force/${recording.id}`)
  await page.getByTestId('foot-plan').waitFor()
  console.log(`opened and drawn: ${Date.now() - open} ms`)

  // The whole minute in view, then the cursor dragged over it: how long a frame takes.
  const plot = page.getByRole('group', { name: 'Efforts over time as share of own best' })
  const box = (await plot.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + 100)
  await page.keyboard.down('Control')
  const zooms: number[] = []
  for (let i = 0; i < 12; i++) {
    const from = Date.now()
    await page.mouse.wheel(0, 160)
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
    zooms.push(Date.now() - from)
  }
  await page.keyboard.up('Control')
  const frames = await plot.evaluate(async (svg) => {
    const r = svg.getBoundingClientRect()
    const send = (type: string, x: number) =>
      svg.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: r.y + 100, bubbles: true, pointerId: 1 }))
    svg.setPointerCapture = () => undefined
    send('pointerdown', r.x + r.width * 0.3)
    const out: number[] = []
    for (let i = 0; i < 90; i++) {
      const from = performance.now()
      send('pointermove', r.x + r.width * (0.3 + i / 225))
      await new Promise((done) => requestAnimationFrame(done))
      await new Promise((done) => setTimeout(done))
      out.push(performance.now() - from)
    }
    send('pointerup', r.x + r.width * 0.7)
    return out
  })
  console.log(
    `zoomed: a step in ${middle(zooms)} ms; scrubbed: a frame in ${middle(frames).toFixed(1)} ms, the longest ${Math.max(...frames).toFixed(0)} ms`,
  )
})
