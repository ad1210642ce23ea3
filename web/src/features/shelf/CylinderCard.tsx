import type { Cylinder, Units } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { Care } from '../../ui/Care'
import { CylinderWork } from './CylinderWork'
import { Marks } from './Marks'
import { WeighForm } from '../../parts/WeighForm'

type Props = { cylinder: Cylinder; all: Cylinder[]; units: Units }

/** One cylinder: what is in it as a level, its last weight, and the scale. */
export function CylinderCard({ cylinder, all, units }: Props) {
  const last = cylinder.weighings[0]
  return (
    <li data-cylinder={cylinder.id} className="flex gap-4 border-t-2 border-ink pt-2">
      <Level cylinder={cylinder} />
      <div className="min-w-0 flex-1">
        <h2 className="leading-snug font-bold break-words">{cylinder.name}</h2>
        <p>
          {cylinder.refrigerant}
          {cylinder.kind === 'recovery' && ', recovery'}
        </p>
        <p className="text-[1.75rem] leading-tight font-bold tabular-nums">
          {formatNumber(cylinder.holds, 2)}{' '}
          <span className="text-base font-normal">{cylinder.unit} in it</span>
        </p>
        <p className="text-[0.92rem] text-soft">
          {formatNumber(cylinder.gross, 2)} {cylinder.unit} on the scale
          {last && `, weighed ${new Date(last.weighed_at).toLocaleDateString()}`}
          {cylinder.limit !== null &&
            `. May hold ${formatNumber(cylinder.limit, 1)} ${cylinder.unit}: 80 %`}
        </p>
        {cylinder.loss && (
          <Care
            word={`Lost ${formatNumber(Math.abs(cylinder.loss.change), 1)} ${cylinder.loss.unit}.`}
          >
            Found missing {new Date(cylinder.loss.happened_at).toLocaleDateString()}. Cap, valve or
            packing: find which before it is used.
          </Care>
        )}
        <WeighForm cylinder={cylinder} units={units} />
        {cylinder.kind === 'recovery' && <Marks cylinder={cylinder} units={units} />}
        <CylinderWork cylinder={cylinder} all={all} units={units} />
      </div>
    </li>
  )
}

/** The level as a height; a recovery cylinder's limit is a line across. */
function Level({ cylinder }: { cylinder: Cylinder }) {
  const most = cylinder.limit === null ? fullest(cylinder) : cylinder.limit / 0.8
  const share = Math.min(cylinder.holds / most, 1)
  return (
    <svg viewBox="0 0 44 96" className="h-28 w-12 shrink-0" aria-hidden>
      <path
        d="M16 4H28V14C38 16 40 22 40 28V88Q40 92 36 92H8Q4 92 4 88V28C4 22 6 16 16 14Z"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <rect x="8" y={88 - 62 * share} width="28" height={62 * share} fill="var(--low)" />
      {cylinder.limit !== null && (
        <path d={`M2 ${88 - 62 * 0.8}H42`} stroke="var(--alarm)" strokeWidth="3" />
      )}
    </svg>
  )
}

/** What it held at its fullest, by its own book: now, or before any of what moved since. */
function fullest(cylinder: Cylinder): number {
  const heaviest = Math.max(cylinder.gross, ...cylinder.weighings.map((one) => one.gross))
  return Math.max(heaviest - cylinder.tare, 0.1)
}
