import { useNavigate } from 'react-router'
import type { Records } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { linearScale, ticks } from '../../lib/scale'

type Snaps = Records['snaps']
type Props = { snaps: Snaps; unit: string }

const [WIDTH, HEIGHT, LEFT, FOOT] = [520, 190, 34, 24]
const LINES = [
  { key: 'superheat', label: 'Superheat', side: 'low', dash: '' },
  { key: 'subcooling', label: 'Subcooling', side: 'high', dash: '7 4' },
] as const

/** A system's years, each mode for itself: a winter's superheat is no summer's. */
export function TimeLines({ snaps, unit }: Props) {
  const modes = (['cooling', 'heating'] as const)
    .map((mode) => ({ mode, of: snaps.filter((one) => one.mode === mode) }))
    .filter((one) => one.of.length > 0)
  if (modes.length < 2) return <TimeLine snaps={snaps} unit={unit} />
  return modes.map(({ mode, of }) => (
    <div key={mode} data-years={mode}>
      <h4 className="mt-2 font-bold text-soft">In {mode}</h4>
      <TimeLine snaps={of} unit={unit} />
    </div>
  ))
}

/** Superheat and subcooling of every settled visit over the years; each mark opens its visit. */
function TimeLine({ snaps, unit }: Props) {
  const navigate = useNavigate()
  const all = [...snaps].reverse()
  const values = all.flatMap((snap) => LINES.flatMap((line) => snap.values[line.key] ?? []))
  if (all.length < 2 || values.length < 2)
    return <p className="py-2 text-soft">Not enough visits to draw yet.</p>
  const times = all.map((snap) => new Date(snap.at).getTime())
  const [first, last] = [Math.min(...times), Math.max(...times)]
  const x = linearScale([first, last === first ? first + 1 : last], [LEFT + 10, WIDTH - 14])
  const [low, high] = [Math.min(0, ...values), Math.max(...values)]
  const y = linearScale([low - 2, high + 2], [HEIGHT - FOOT, 10])
  return (
    <figure className="py-2">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`Superheat and subcooling over ${all.length} visits`}
      >
        {ticks(low, high, 4).map((value) => (
          <g key={value}>
            <path d={`M${LEFT} ${y(value)}H${WIDTH}`} stroke="var(--rule)" />
            <text
              x={LEFT - 6}
              y={y(value) + 4}
              textAnchor="end"
              fontSize="12"
              fill="var(--ink-soft)"
            >
              {formatNumber(value, 0)}
            </text>
          </g>
        ))}
        {LINES.map((line) => {
          const points = all.flatMap((snap) => {
            const value = snap.values[line.key]
            return value === undefined
              ? []
              : [{ id: snap.visit_id, at: x(new Date(snap.at).getTime()), up: y(value) }]
          })
          return (
            <g key={line.key} stroke={`var(--${line.side})`} fill={`var(--${line.side})`}>
              <path
                d={`M${points.map((p) => `${p.at} ${p.up}`).join('L')}`}
                fill="none"
                strokeWidth="2"
                strokeDasharray={line.dash}
              />
              {points.map((point) => (
                <circle
                  key={point.id}
                  cx={point.at}
                  cy={point.up}
                  r="5"
                  className="cursor-pointer"
                  onClick={() => void navigate(`/visits/${point.id}`)}
                />
              ))}
            </g>
          )
        })}
        <text x={LEFT + 4} y={HEIGHT - 5} fontSize="12" fill="var(--ink-soft)">
          {new Date(first).toLocaleDateString([], { month: 'short', year: 'numeric' })}
        </text>
        <text x={WIDTH - 4} y={HEIGHT - 5} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
          {new Date(last).toLocaleDateString([], { month: 'short', year: 'numeric' })}
        </text>
      </svg>
      <figcaption className="flex gap-5 text-[0.92rem]">
        {LINES.map((line) => (
          <span key={line.key} className="flex items-center gap-2">
            <svg viewBox="0 0 30 8" className="h-2 w-8" aria-hidden>
              <path
                d="M0 4H30"
                stroke={`var(--${line.side})`}
                strokeWidth="3"
                strokeDasharray={line.dash}
              />
            </svg>
            {line.label}, {unit}
          </span>
        ))}
      </figcaption>
    </figure>
  )
}
