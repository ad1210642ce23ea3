import type { DrawnProof } from '../../../api/types'
import { pathThrough } from '../../../drawing/frame'
import { LetterText } from '../../../drawing/LetterText'

/** The strip of a test dose or a defrost: traces, and the moments that prove something. */
export function ProofStrip({ layouts }: { layouts: DrawnProof[] }) {
  const drawn = layouts[0]
  if (!drawn) return null
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      role="img"
      aria-label={drawn.words}
      className="w-full max-w-lg"
      data-proof={drawn.strokes.length}
    >
      {drawn.boxes.map(({ x, y, width, height }, n) => (
        <rect key={n} {...{ x, y, width, height }} fill="var(--low)" fillOpacity="0.22" />
      ))}
      {drawn.strokes.map(({ role, points }, n) => (
        <path
          key={n}
          d={pathThrough(points)}
          fill="none"
          stroke={role === 'dose' ? 'var(--low)' : 'var(--ink)'}
          strokeWidth={role === 'trace' ? 2.5 : 1.5}
          strokeDasharray={role === 'by' ? '5 4' : undefined}
        />
      ))}
      {drawn.letters.map((one, n) => (
        <LetterText key={n} of={one} isSoft={one.role === 'tick'} />
      ))}
    </svg>
  )
}
