/** A straight line from one range to another. */
export type Scale = (value: number) => number

export function linearScale(from: [number, number], to: [number, number]): Scale {
  const span = from[1] - from[0]
  return (value) => to[0] + (span === 0 ? 0.5 : (value - from[0]) / span) * (to[1] - to[0])
}

/** Round tick values that cover a range: about `count` of them, on 1, 2 or 5 times ten. */
export function ticks(low: number, high: number, count: number): number[] {
  const rough = (high - low) / Math.max(count, 1)
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((n) => n * power).find((n) => n >= rough) ?? rough
  const first = Math.ceil(low / step)
  return Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) => (first + i) * step)
}
