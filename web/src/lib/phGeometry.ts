import type { Cycle, PressureEnthalpy } from '../api/types'
import { linearScale, ticks, type Scale } from './scale'

type Pair = [number, number]
export type Box = { left: number; top: number; right: number; bottom: number }
export type PhGeometry = {
  bubble: string
  dew: string
  isotherms: { value: number; path: string; label: { x: number; y: number } | null }[]
  qualities: string[]
  isentropes: string[]
  cycle: string
  corners: { key: string; label: string; x: number; y: number; estimated: boolean }[]
  pressures: { value: number; y: number }[]
  enthalpies: { value: number; x: number }[]
}

const STEPS = [1, 2, 5]

/** Where everything on a pressure-enthalpy chart stands: pressure on a logarithm, enthalpy plain. */
export function phGeometry(chart: PressureEnthalpy, cycle: Cycle | null, box: Box): PhGeometry {
  const corners = cycle?.corners ?? []
  const widest = Math.max(...chart.dew.map(([h]) => h))
  const lowest = Math.min(...chart.bubble.map(([h]) => h))
  const span = widest - lowest
  const left = Math.min(lowest - 0.05 * span, ...corners.map((c) => c.enthalpy))
  const right = Math.max(widest + 0.33 * span, ...corners.map((c) => c.enthalpy + 0.03 * span))
  const low = Math.min(...chart.dew.map(([, p]) => p))
  const high = Math.max(...chart.dew.map(([, p]) => p)) * 1.12
  const x = linearScale([left, right], [box.left, box.right])
  const y = logScale([low, high], [box.bottom, box.top])
  const path = (points: Pair[]) => inside(points, left, right, low, high).map(draw(x, y)).join('')
  return {
    bubble: path(chart.bubble),
    dew: path(chart.dew),
    isotherms: chart.isotherms.map((line) => {
      const points = inside(line.points, left, right, low, high)
      const [end] = points
      return {
        value: line.value,
        path: points.map(draw(x, y)).join(''),
        label: end ? { x: x(end[0]), y: y(end[1]) } : null,
      }
    }),
    qualities: chart.qualities.map((line) => path(line.points as Pair[])),
    isentropes: chart.isentropes.map((line) => path(line.points as Pair[])),
    cycle: loop(corners.map(({ enthalpy, pressure }) => [enthalpy, pressure] as Pair))
      .map(draw(x, y))
      .join(''),
    corners: corners.map((c) => ({
      key: c.key,
      label: c.label,
      x: x(c.enthalpy),
      y: y(c.pressure),
      estimated: c.estimated,
    })),
    pressures: logTicks(low, high).map((value) => ({ value, y: y(value) })),
    enthalpies: ticks(left, right, 6).map((value) => ({ value, x: x(value) })),
  }
}

/** Corners in the order of flow; closed only when all four are there. */
function loop(points: Pair[]): Pair[] {
  const [first] = points
  return points.length === 4 && first ? [...points, first] : points
}

function inside(points: Pair[], left: number, right: number, low: number, high: number): Pair[] {
  return points.filter(([h, p]) => h >= left && h <= right && p >= low * 0.999 && p <= high)
}

const draw =
  (x: Scale, y: Scale) =>
  ([h, p]: Pair, i: number): string =>
    `${i === 0 ? 'M' : 'L'}${x(h).toFixed(1)} ${y(p).toFixed(1)}`

function logScale(from: Pair, to: Pair): Scale {
  const line = linearScale([Math.log(from[0]), Math.log(from[1])], to)
  return (value) => line(Math.log(value))
}

export function logTicks(low: number, high: number): number[] {
  const found: number[] = []
  for (let power = 10 ** Math.floor(Math.log10(low)); power <= high; power *= 10) {
    found.push(...STEPS.map((step) => step * power).filter((v) => v >= low && v <= high))
  }
  return found
}
