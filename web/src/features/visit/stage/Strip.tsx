import type { Standing } from '../../../api/types'
import { saidOf } from '../VerdictRow'

/** The stage in 48 px while something is typed in the hand: the verdict's word and the two gaps. */
export function Strip({ visit }: { visit: Standing }) {
  const numbers = visit.stage[0]?.numbers ?? []
  const gaps = (['superheat', 'subcooling'] as const).map((key) =>
    numbers.find((one) => one.key === key),
  )
  return (
    <div
      data-strip
      className="flex h-12 items-center gap-3 overflow-hidden border-b-2 border-ink bg-ground whitespace-nowrap"
    >
      {gaps.map((one) => (
        <span key={one?.key} className="shrink-0" data-strip-number={one?.key}>
          <abbr title={one?.label} className="text-soft no-underline">
            {one?.key === 'superheat' ? 'SH' : 'SC'}
          </abbr>{' '}
          <strong className="text-[1.15rem]">{one?.text === '' ? '—' : one?.text}</strong>{' '}
          <strong>{/^[↑↓✓]/.exec(one?.words[0] ?? '')?.[0]}</strong>
        </span>
      ))}
      <span className="min-w-0 truncate font-bold" data-strip-verdict>
        {saidOf(visit).headline}
      </span>
    </div>
  )
}
