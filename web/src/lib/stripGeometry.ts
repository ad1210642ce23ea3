/** One column of a trace: its moment [ms], mean, least, most. */
export type Column = [at: number, mean: number, low: number, high: number]
export type Span = { from: number; to: number }

const MINUTE = 60_000

/** A strip's laid-out range, widened to what has come since and to its window. */
export function widened(
  laidOut: { low: number; high: number },
  fresh: readonly Column[],
  around: readonly number[],
): [number, number] {
  let { low, high } = laidOut
  for (const [, , least, most] of fresh) {
    low = Math.min(low, least)
    high = Math.max(high, most)
  }
  return [Math.min(low, ...around), Math.max(high, ...around)]
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
