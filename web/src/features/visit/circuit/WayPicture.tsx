import type { Circuit } from '../../../api/types'
import { Strokes, type Pen } from '../../../drawing/FittedSvg'
import { LetterText } from '../../../drawing/LetterText'

type Drawn = Circuit['drawn']

const PENS: Record<Drawn['strokes'][number]['role'], Pen> = {
  air: { hue: 'var(--rule)', wide: 1 },
  behind: { hue: 'var(--ink)', wide: 3 },
  passed_over: { hue: 'var(--alarm)', wide: 2, dash: '2 4' },
  ahead: { hue: 'var(--rule-strong)', wide: 2, dash: '6 5' },
}

/** The way of an opened circuit as a line of pressure: where it came from, where it is. */
export function WayPicture({ drawn }: { drawn: Drawn }) {
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      role="img"
      aria-label={drawn.words}
      className="w-full max-w-md"
      data-way={drawn.dots.find((one) => one.stands === 'here')?.state}
    >
      <Strokes strokes={drawn.strokes} pens={PENS} />
      {drawn.dots.map(({ state, stands, x, y }) => (
        <circle
          key={state}
          cx={x}
          cy={y}
          r={stands === 'here' ? 8 : 4.5}
          fill={stands === 'behind' || stands === 'here' ? 'var(--ink)' : 'var(--ground)'}
          stroke={stands === 'passed_over' ? 'var(--alarm)' : 'var(--ink)'}
          strokeWidth={stands === 'here' ? 3 : 1.5}
          strokeDasharray={stands === 'passed_over' ? '2 2' : undefined}
        />
      ))}
      {drawn.letters.map((one, n) => (
        <LetterText key={n} of={one} isSoft={false} />
      ))}
    </svg>
  )
}
