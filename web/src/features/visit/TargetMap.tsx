import { FittedSvg, Strokes, type Pen } from '../../drawing/FittedSvg'
import { fitted } from '../../drawing/frame'
import { LetterText } from '../../drawing/LetterText'
import type { DrawnMap } from '../../api/types'
import { useSize } from '../../state/size'
import { useSpoken } from '../../state/spoken'

type Stroke = DrawnMap['strokes'][number]
type Ring = DrawnMap['suspects'][number]

const PENS: Record<Stroke['role'], Pen> = {
  grid: { hue: 'var(--rule)', wide: 1 },
  window: { hue: 'var(--rule-strong)', wide: 1, dash: '3 4' },
  corner: { hue: 'var(--ink)', wide: 3 },
  path: { hue: 'var(--rule-strong)', wide: 2 },
  arrow: { hue: 'var(--ink)', wide: 2.5 },
}

/** The target map, stroked as it was laid out: the window, every settled step, what is spoken of. */
export function TargetMap({ layouts }: { layouts: DrawnMap[] }) {
  const [frame, size] = useSize({ width: 816, height: 412 })
  const { spoken } = useSpoken()
  const fit = fitted(layouts, size.width, size.height)
  if (!fit) {
    return (
      <p className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
        The target map needs superheat and subcooling: both pressures and both line temperatures.
      </p>
    )
  }
  const { drawn } = fit
  const suspect = drawn.suspects.find((one) => one.key === spoken.suspect)
  const isMarked = spoken.signs.some((sign) => sign === 'superheat' || sign === 'subcooling')
  return (
    <figure ref={frame} className="relative h-full" data-landing={drawn.steps.length}>
      <FittedSvg fit={fit}>
        <Strokes strokes={drawn.strokes} pens={PENS} />
        {suspect && (
          <g data-suspected={suspect.key}>
            <Place ring={suspect} dashes="7 4" />
          </g>
        )}
        {drawn.steps.map((step, n) => (
          <g key={n} data-step={step.is_now ? 'now' : n}>
            {step.is_now && isMarked && (
              <circle
                cx={step.x}
                cy={step.y}
                r="16"
                fill="none"
                stroke="var(--accent)"
                strokeWidth="4"
              />
            )}
            <circle
              cx={step.x}
              cy={step.y}
              r={step.is_now ? 9 : 5}
              fill={step.is_now ? 'var(--ink)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth="2.5"
            />
          </g>
        ))}
        {drawn.letters.map((one, n) => (
          <LetterText key={n} of={one} isSoft={one.role === 'tick'} />
        ))}
        {drawn.ahead && (
          <g data-ahead={drawn.ahead.key}>
            <Place ring={drawn.ahead} />
          </g>
        )}
      </FittedSvg>
    </figure>
  )
}

/** A ring with its name: where a suspect would put this system, or the dose. */
function Place({ ring, dashes }: { ring: Ring; dashes?: string }) {
  const { cx, cy, rx, ry } = ring
  return (
    <>
      <ellipse
        {...{ cx, cy, rx, ry }}
        fill="none"
        stroke="var(--accent)"
        strokeWidth="3"
        strokeDasharray={dashes}
      />
      <LetterText of={ring.name} isSoft={false} />
    </>
  )
}
