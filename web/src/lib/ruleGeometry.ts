import { linearScale, ticks, type Scale } from './scale'

type Row = [number, number, number]
type Tick = { value: number; x: number; long: boolean }
export type RuleGeometry = { x: Scale; pressures: Tick[]; temperatures: Tick[] }

const HALF_SPAN = { ip: 26, si: 15 }

/** A slide rule around a temperature: temperature runs evenly, pressure stands where it boils. */
export function ruleGeometry(
  saturation: Row[],
  centre: number,
  celsius: boolean,
  width: number,
): RuleGeometry {
  const half = celsius ? HALF_SPAN.si : HALF_SPAN.ip
  const x = linearScale([centre - half, centre + half], [0, width])
  const rows = [...saturation].sort((a, b) => a[0] - b[0])
  const low = pressureAt(rows, centre - half)
  const high = pressureAt(rows, centre + half)
  return {
    x,
    temperatures: graded(centre - half, centre + half, 6).map((t) => ({ ...t, x: x(t.value) })),
    pressures: graded(low, high, 5)
      .map((t) => ({ ...t, x: x(dewAt(rows, t.value)) }))
      .filter((t) => t.x > 14 && t.x < width - 14),
  }
}

/** Long ticks with a number, and short ones at a fifth of them. */
function graded(low: number, high: number, count: number): { value: number; long: boolean }[] {
  const long = ticks(low, high, count)
  const step = (long[1] ?? 1) - (long[0] ?? 0)
  const fine = step / 5
  const first = Math.ceil(low / fine)
  return Array.from({ length: Math.floor(high / fine) - first + 1 }, (_, i) => {
    const value = Number(((first + i) * fine).toPrecision(8))
    return { value, long: (first + i) % 5 === 0 }
  })
}

const dewAt = (rows: Row[], pressure: number) => between(rows, 0, 2, pressure)
const pressureAt = (rows: Row[], dew: number) => between(rows, 2, 0, dew)

/** Straight between rows, held at the ends: for placing ticks, never for a number shown. */
function between(rows: Row[], from: 0 | 2, to: 0 | 2, value: number): number {
  const i = rows.findIndex((row) => row[from] >= value)
  const above = rows[i === -1 ? rows.length - 1 : i]
  const below = rows[i - 1]
  if (above === undefined) return 0
  if (below === undefined || i === -1) return above[to]
  const share = (value - below[from]) / (above[from] - below[from])
  return below[to] + share * (above[to] - below[to])
}
