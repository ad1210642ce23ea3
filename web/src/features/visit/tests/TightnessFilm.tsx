import { useTests } from '../../../api/queries'
import type { DrawnFilm, Standing } from '../../../api/types'
import { FittedSvg, Strokes, type Pen } from '../../../drawing/FittedSvg'
import { fitted, pathThrough } from '../../../drawing/frame'
import { LetterText } from '../../../drawing/LetterText'
import { useSize } from '../../../state/size'

type Stroke = DrawnFilm['strokes'][number]

const PENS: Record<Stroke['role'], Pen> = {
  grid: { hue: 'var(--rule)', wide: 1 },
  mark: { hue: 'var(--rule-strong)', wide: 1, dash: '3 4' },
  limit: { hue: 'var(--alarm)', wide: 2, dash: '8 4' },
  frame: { hue: 'var(--ink)', wide: 1.5 },
  measured: { hue: 'var(--ink)', wide: 3 },
  fitted: { hue: 'var(--rule-strong)', wide: 2, dash: '5 4' },
}

/** The tightness film of a visit, on the stage. */
export function TightnessFilm({ visit }: { visit: Standing }) {
  const tests = useTests(visit.id, visit.tests_running > 0)
  if (tests.status !== 'ready') {
    return <p className="p-4">{tests.status === 'error' ? tests.message : 'Reading the tests…'}</p>
  }
  const hidden = tests.data.tests.find((one) => one.hidden !== null)
  return (
    <div className="flex h-full min-h-0 flex-col">
      <Film layouts={tests.data.film} />
      {hidden?.hidden && (
        <p className="shrink-0 text-[0.95rem]" data-hidden-leak>
          {hidden.hidden.label}: <strong>{hidden.hidden.text}</strong>. Light: from oil and water.
          Dark: from outside.
        </p>
      )}
    </div>
  )
}

/** The film, stroked as it was laid out: every test one frame of it, log pressure up. */
export function Film({ layouts }: { layouts: DrawnFilm[] }) {
  const [frame, size] = useSize({ width: 816, height: 400 })
  const fit = fitted(layouts, size.width, size.height)
  if (!fit) {
    return (
      <p className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
        Nitrogen, vacuum and decay stand here on one sheet once a test of them has a reading.
      </p>
    )
  }
  const { drawn } = fit
  return (
    <figure ref={frame} className="relative min-h-0 flex-1" data-film={drawn.frames.length}>
      <FittedSvg fit={fit}>
        {drawn.shades.map(({ role, points }, n) => (
          <path
            key={n}
            data-shade={role}
            d={`${pathThrough(points)}Z`}
            fill={role === 'outside' ? 'var(--high)' : 'var(--low)'}
            fillOpacity={role === 'outside' ? 0.55 : 0.28}
          />
        ))}
        <Strokes strokes={drawn.strokes} pens={PENS} />
        {drawn.letters.map((one, n) => (
          <LetterText key={n} of={one} isSoft={one.role === 'tick'} />
        ))}
      </FittedSvg>
    </figure>
  )
}
