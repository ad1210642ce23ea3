import type { Advice, Assessment, Footprint, Suspect } from '../api/types'
import { linearScale, ticks, type Scale } from './scale'
export type Point = { x: number; y: number }

export type Step = Point & { label: string; isNow: boolean; done: string }
export type Band = { from: number; to: number }
export type LandingGeometry = {
  x: Scale
  y: Scale
  xTicks: { value: number; at: number }[]
  yTicks: { value: number; at: number }[]
  /** The windows as pixel bands: subcooling across, superheat up. */
  across: Band | null
  up: Band | null
  steps: Step[]
}

const LEFT = 44
const FOOT = 40
/** Room for the names of the drawings, which stand in the corner. */
const TOP = 56

/** Where everything on the Landing stands: subcooling to the right, superheat up. */
export function layOutLanding(
  footprints: Footprint[],
  assessment: Assessment,
  width: number,
  height: number,
  nudge: Advice | null = null,
): LandingGeometry {
  const across = assessment.targets['subcooling']
  const up = assessment.targets['superheat']
  const one = assessment.units === 'ip' ? 1 : 5 / 9
  const xs = [0, 16 * one, ...footprints.map((f) => f.subcooling)]
  const ys = [0, 24 * one, ...footprints.map((f) => f.superheat)]
  if (across) xs.push(across.low, across.high)
  if (up) ys.push(up.low, up.high)
  const ahead = aheadOf(nudge)
  if (ahead) {
    xs.push(ahead.subcooling.low, ahead.subcooling.high)
    ys.push(ahead.superheat.low, ahead.superheat.high)
  }
  const pad = 3 * one
  const x = linearScale([Math.min(...xs) - pad, Math.max(...xs) + pad], [LEFT, width - 8])
  const y = linearScale([Math.min(...ys) - pad, Math.max(...ys) + pad], [height - FOOT, TOP])
  return {
    x,
    y,
    xTicks: ticks(Math.min(...xs), Math.max(...xs), 6).map((value) => ({ value, at: x(value) })),
    yTicks: ticks(Math.min(...ys), Math.max(...ys), 5).map((value) => ({ value, at: y(value) })),
    across: across ? { from: x(across.low), to: x(across.high) } : null,
    up: up ? { from: y(up.high), to: y(up.low) } : null,
    steps: footprints.map((step, index) => ({
      x: x(step.subcooling),
      y: y(step.superheat),
      isNow: index === footprints.length - 1,
      label: index === footprints.length - 1 ? 'now' : ago(step.minutes_ago),
      done: step.done,
    })),
  }
}

/** Where a suspect would put this system: middle and half axes. */
export function ellipseOf(suspect: Suspect, drawn: LandingGeometry) {
  const { lands } = suspect
  if (lands === null) return null
  const [cx, cy] = [drawn.x(lands.subcooling), drawn.y(lands.superheat)]
  return {
    cx,
    cy,
    rx: Math.abs(drawn.x(lands.subcooling + lands.subcooling_spread) - cx),
    ry: Math.abs(drawn.y(lands.superheat + lands.superheat_spread) - cy),
  }
}

/** Where the next dose is expected to put it; null while none is advised. */
export function aheadOf(nudge: Advice | null) {
  const subcooling = nudge?.expected['subcooling']
  const superheat = nudge?.expected['superheat']
  return subcooling && superheat ? { subcooling, superheat } : null
}

/** The forecast as pixels: middle and half axes, never too thin to see. */
export function forecastOf(nudge: Advice | null, drawn: LandingGeometry) {
  const ahead = aheadOf(nudge)
  if (ahead === null) return null
  const { subcooling, superheat } = ahead
  return {
    cx: drawn.x(subcooling.middle),
    cy: drawn.y(superheat.middle),
    rx: Math.max(Math.abs(drawn.x(subcooling.high) - drawn.x(subcooling.low)) / 2, 8),
    ry: Math.max(Math.abs(drawn.y(superheat.high) - drawn.y(superheat.low)) / 2, 8),
  }
}

function ago(minutes: number): string {
  return minutes < 90 ? `${Math.round(minutes)} min ago` : `${Math.round(minutes / 60)} h ago`
}
