import { FittedSvg, Strokes, type Pen } from '../../drawing/FittedSvg'
import { fitted } from '../../drawing/frame'
import { LetterText } from '../../drawing/LetterText'
import type { DrawnHeat } from '../../api/types'
import { useSize } from '../../state/size'

const PENS: Record<DrawnHeat['strokes'][number]['role'], Pen> = {
  grid: { hue: 'var(--rule)', wide: 1 },
  plate: { hue: 'var(--ink)', wide: 3 },
  house: { hue: 'var(--ink)', wide: 2, dash: '9 5' },
  balance: { hue: 'var(--rule-strong)', wide: 1.5, dash: '2 4' },
  lockout: { hue: 'var(--rule-strong)', wide: 6 },
  whisker: { hue: 'var(--ink)', wide: 2.5 },
}

/** The heating line: what the plate expects, what the house loses, what was measured. */
export function HeatLine({ layouts }: { layouts: DrawnHeat[] }) {
  const [frame, size] = useSize({ width: 816, height: 412 })
  const fit = fitted(layouts, size.width, size.height)
  if (!fit) {
    return (
      <p className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
        The heating line needs the machine’s size: write its capacity, or its heat, in the plate.
      </p>
    )
  }
  const { drawn } = fit
  return (
    <figure ref={frame} className="relative h-full" data-heats={drawn.dots.length}>
      <FittedSvg fit={fit}>
        <Strokes strokes={drawn.strokes} pens={PENS} />
        {drawn.dots.map((dot, n) => (
          <circle
            key={n}
            data-heat={dot.is_now ? 'now' : 'earlier'}
            cx={dot.x}
            cy={dot.y}
            r={dot.is_now ? 8 : 5}
            fill={dot.is_now ? 'var(--ink)' : 'var(--sheet)'}
            stroke="var(--ink)"
            strokeWidth="2.5"
          />
        ))}
        {drawn.letters.map((one, n) => (
          <LetterText key={n} of={one} isSoft={one.role === 'tick'} />
        ))}
      </FittedSvg>
    </figure>
  )
}
