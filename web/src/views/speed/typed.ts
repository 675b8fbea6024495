import { fromShown } from '@/parts/speed'

/** Numbers of one line that was typed or pasted: club speed, and what of the ball follows it. */
export interface Typed {
  clubMps: number
  ballMps?: number
  carryM?: number
}

const METRES_A_YARD = 0.9144
const LEAST = 10
const MOST = 75

/**
 * Reads swings that were typed or pasted, a line each: club speed in the practice's unit, then ball speed in the same,
 * then carry (yards beside mph, metres beside m/s). Several numbers on one line with spaces between them are swings of
 * their own when all could be club speeds of one key. What cannot be read is given back in words.
 */
export function readTyped(text: string, unit: 'mph' | 'm/s'): { swings: Typed[]; wrong: string[] } {
  const swings: Typed[] = []
  const wrong: string[] = []
  const lines = text
    .split(/[\r\n;]+/)
    .map((l) => l.trim())
    .filter(Boolean)
  for (const line of lines) {
    const cells = line.split(/\t|,\s|\s+/).filter(Boolean)
    const numbers = cells.map((c) => Number(c.replace(',', '.')))
    if (numbers.some((n) => !Number.isFinite(n))) {
      wrong.push(`“${line}” holds no speeds`)
      continue
    }
    const speeds = numbers.map((n) => fromShown(n, unit))
    const inside = (v: number | undefined) => v !== undefined && v >= LEAST && v <= MOST
    const separate = line.includes('\t') ? false : speeds.length > 1 && speeds.every(inside) && alike(speeds)
    if (separate) swings.push(...speeds.map((clubMps) => ({ clubMps })))
    else if (!inside(speeds[0])) wrong.push(`${cells[0]} ${unit} is no club speed`)
    else {
      const [clubMps, ballMps, carry] = [speeds[0] as number, speeds[1], numbers[2]]
      swings.push({
        clubMps,
        ...(ballMps ? { ballMps } : {}),
        ...(carry ? { carryM: unit === 'mph' ? carry * METRES_A_YARD : carry } : {}),
      })
    }
  }
  return { swings, wrong }
}

/** A ball leaves at 1.2 times the club and more: numbers closer together are swings. */
const alike = (v: number[]) => Math.max(...v) / Math.min(...v) < 1.2
