import type { Zones } from '../../../api/types'

type Room = Zones['rooms'][number]
type Props = { room: Room; zones: Zones; frame: number; onFrame: (frame: number) => void }

const WIDTH = 1000
const HEIGHT = 150
const FLOOR = 34
/** The valve’s lane at the foot; the temperatures have the rest. */

/** One room over the whole log: what it has against what it wants, and its valve under them. */
export function PartStrip({ room, zones, frame, onFrame }: Props) {
  const last = Math.max(zones.frames.at_ms.length - 1, 1)
  const seen = [...room.has, ...room.wants].filter((value): value is number => value !== null)
  const low = Math.min(...seen) - 0.5
  const high = Math.max(...seen) + 0.5
  const x = (i: number) => (WIDTH * i) / last
  const y = (value: number) => 6 + ((HEIGHT - FLOOR - 12) * (high - value)) / (high - low)
  const now = room.has[frame]
  return (
    <figure aria-label={`${room.name} over the log`} className="shrink-0">
      <figcaption className="flex flex-wrap justify-between gap-x-4 text-[0.92rem]">
        <strong>{room.name}</strong>
        <span className="text-soft">
          {low.toFixed(0)} to {high.toFixed(0)} {zones.unit} · dashed: wants · foot: valve
        </span>
        <span className="tabular-nums">
          {now == null ? '–' : now.toFixed(1)} {zones.unit}
        </span>
      </figcaption>
      {seen.length > 0 && (
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          preserveAspectRatio="none"
          aria-hidden
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect()
            onFrame(Math.round((last * (event.clientX - box.left)) / box.width))
          }}
          className="block h-[4.5rem] w-full border border-rule"
          fill="none"
        >
          <path d={valve(room, x)} fill="var(--rule)" />
          <path
            d={line(room.wants, x, y)}
            stroke="var(--ink-soft)"
            strokeDasharray="7 5"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={line(room.has, x, y)}
            stroke="var(--ink)"
            strokeWidth="2.5"
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={`M${x(frame)} 0V${HEIGHT}`}
            stroke="var(--accent)"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
    </figure>
  )
}

/** A line with its gaps left open. */
function line(
  values: (number | null)[],
  x: (i: number) => number,
  y: (value: number) => number,
): string {
  let open = true
  return values
    .map((value, i) => {
      if (value === null) {
        open = true
        return ''
      }
      const step = `${open ? 'M' : 'L'}${x(i).toFixed(1)} ${y(value).toFixed(1)}`
      open = false
      return step
    })
    .join('')
}

function valve(room: Room, x: (i: number) => number): string {
  const tops = room.valve.map((share, i) => {
    const height = FLOOR * Math.min(Math.max(share ?? 0, 0), 1)
    return `L${x(i).toFixed(1)} ${(HEIGHT - height).toFixed(1)}`
  })
  return `M0 ${HEIGHT}${tops.join('')}L${WIDTH} ${HEIGHT}Z`
}
