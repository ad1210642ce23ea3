import { linearScale } from '../lib/scale'

type Props = { value: number; low: number; high: number; describedAs: string }

const WIDTH = 200
const MARGIN = 10

/** Where a value sits against its window: a bracket on a line, and a pointer. */
export function BracketScale({ value, low, high, describedAs }: Props) {
  const span = Math.max(high - low, 0.1)
  const ends: [number, number] = [low - 1.1 * span, high + 1.1 * span]
  const x = linearScale(ends, [MARGIN, WIDTH - MARGIN])
  const at = Math.min(Math.max(x(value), MARGIN - 4), WIDTH - MARGIN + 4)
  const beyond = value < ends[0] ? 'low' : value > ends[1] ? 'high' : null
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 34`}
      role="img"
      aria-label={describedAs}
      className="w-full max-w-56"
    >
      <path d={`M${MARGIN} 22H${WIDTH - MARGIN}`} stroke="var(--rule-strong)" strokeWidth="1.5" />
      <path
        d={`M${x(low) + 6} 12h-6v20h6 M${x(high) - 6} 12h6v20h-6`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.6"
      />
      {beyond === null ? (
        <path d={`M${at} 20l-7 -13h14z`} fill="var(--ink)" />
      ) : (
        <path
          d={beyond === 'high' ? `M${at - 12} 5l13 8-13 8z` : `M${at + 12} 5l-13 8 13 8z`}
          fill="var(--ink)"
        />
      )}
    </svg>
  )
}
