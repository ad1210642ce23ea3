import { linearScale, ticks, type Scale } from './scale'

/** One column of a trace: its moment [ms], mean, least, most. */
export type Column = [at: number, mean: number, low: number, high: number]
export type Span = { from: number; to: number }
export type StripShape = {
  x: Scale
  y: Scale
  ticks: number[]
}

const MINUTE = 60_000
const STEPS = [
  1,
  2,
  5,
  10,
  15,
  30,
  60,
  120,
  240,
  480,
  1440,
  2880,
  7 * 1440,
  14 * 1440,
  30 * 1440,
  90 * 1440,
]

/** Scales of one strip: time across, the trace's own range up, with room round it. */
export function layOutStrip(
  columns: readonly Column[],
  around: readonly number[],
  span: Span,
  box: { left: number; right: number; top: number; bottom: number },
  least: number,
): StripShape {
  let low = Infinity
  let high = -Infinity
  for (const [at, , lowest, highest] of columns) {
    if (at < span.from || at > span.to) continue
    if (lowest < low) low = lowest
    if (highest > high) high = highest
  }
  for (const value of around) {
    if (value < low) low = value
    if (value > high) high = value
  }
  if (low > high) [low, high] = [0, 1]
  const room = Math.max((high - low) * 0.12, (least - (high - low)) / 2, 0.05)
  const range: [number, number] = [low - room, high + room]
  return {
    x: linearScale([span.from, span.to], [box.left, box.right]),
    y: linearScale(range, [box.bottom, box.top]),
    ticks: ticks(range[0], range[1], 3),
  }
}

/** Moments to mark along a span: about one every 110 pixels, on round local times. */
export function timeTicks(span: Span, width: number): number[] {
  const wanted = (span.to - span.from) / Math.max(width / 110, 1) / MINUTE
  const step = (STEPS.find((minutes) => minutes >= wanted) ?? 365 * 1440) * MINUTE
  const shift = new Date(span.from).getTimezoneOffset() * MINUTE
  const first = Math.ceil((span.from - shift) / step) * step + shift
  return Array.from({ length: Math.max(Math.floor((span.to - first) / step) + 1, 0) }, (_, i) => {
    return first + i * step
  })
}

/** How a tick is written: clock time within days, a date beyond. */
export function timeLabel(at: number, span: Span): string {
  const moment = new Date(at)
  return span.to - span.from < 36 * 60 * MINUTE
    ? moment.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
    : moment.toLocaleDateString([], { day: 'numeric', month: 'short' })
}

/** A span zoomed about a moment, no shorter than half a minute nor longer than all there is. */
export function zoomed(span: Span, factor: number, about: number, all: Span): Span {
  const room = Math.max(all.to - all.from, MINUTE)
  const length = Math.min(Math.max((span.to - span.from) * factor, MINUTE / 2), room * 1.1)
  const share = (about - span.from) / (span.to - span.from)
  const from = about - share * length
  return { from, to: from + length }
}

/** Columns split where something is missing: a gap is drawn as a gap. */
export function runs(columns: readonly Column[], gapMs: number): Column[][] {
  const found: Column[][] = []
  for (const column of columns) {
    const last = found.at(-1)?.at(-1)
    if (last === undefined || column[0] - last[0] > gapMs) found.push([column])
    else found.at(-1)?.push(column)
  }
  return found
}
