/** One layout of a drawing: how large it is, in its own units. */
export type Framed = { width: number; height: number }
export type Fitted<T> = { drawn: T; scale: number; left: number; top: number }

/**
 * The layout to stroke in a space: the largest that fits unshrunk, stretched to fill what it can.
 * Where even the smallest is too large it is shrunk, so that nothing is ever cut off.
 */
export function fitted<T extends Framed>(
  layouts: readonly T[],
  width: number,
  height: number,
): Fitted<T> | null {
  const fits = layouts.filter((one) => one.width <= width && one.height <= height)
  const drawn = fits.at(-1) ?? layouts[0]
  if (drawn === undefined) return null
  const scale = Math.min(width / drawn.width, height / drawn.height)
  return {
    drawn,
    scale,
    left: (width - drawn.width * scale) / 2,
    top: (height - drawn.height * scale) / 2,
  }
}

/** An SVG path through points. */
export function pathThrough(points: readonly (readonly [number, number])[]): string {
  return points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')
}

/** A wavy line from one end to the other: air. */
export function wave(points: readonly (readonly [number, number])[]): string {
  const [from, to] = [points[0], points.at(-1)]
  if (!from || !to) return ''
  const count = Math.max(2, Math.round((to[0] - from[0]) / 16))
  const half = (to[0] - from[0]) / count / 2
  return `M${from[0]} ${from[1]}` + `q${half / 2} -5 ${half} 0t${half} 0`.repeat(count)
}
