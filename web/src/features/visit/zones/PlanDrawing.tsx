import type { Zones } from '../../../api/types'

type Props = { zones: Zones; frame: number; part: string; onPart: (key: string) => void }

/** Strokes the storeys as they are laid out: each room want against is, its valve, its pipe lit. */
export function PlanDrawing({ zones, frame, part, onPart }: Props) {
  const { plan, frames } = zones
  const rooms = new Map(zones.rooms.map((room) => [room.key, room]))
  const runs = (frames.hz[frame] ?? 0) > 0
  const [x = 0, y = 0, width = 0, height = 0] = plan.plant
  return (
    <svg
      viewBox={`0 0 ${plan.width} ${plan.height}`}
      role="group"
      aria-label={`The plant on its storeys. ${spoken(zones, frame)}`}
      className="mx-auto block h-full max-h-full w-full"
      fill="none"
    >
      {plan.storeys.map(([floor, name], i) => (
        <g key={`${name}-${i}`}>
          <path d={`M20 ${floor}H${plan.width - 20}`} stroke="var(--rule)" strokeWidth="2" />
          <text x={18} y={floor - 10} fontSize="22" fill="var(--ink-soft)">
            {name}
          </text>
        </g>
      ))}
      <path
        d={pathOf(plan.riser)}
        stroke={runs ? 'var(--low)' : 'var(--rule-strong)'}
        strokeWidth="8"
        strokeDasharray={runs ? undefined : '4 8'}
      />
      <g data-part="outdoor" data-carries={zones.carried.includes('outdoor')}>
        <rect
          {...{ x, y, width, height }}
          rx="6"
          fill="var(--ground)"
          stroke={zones.carried.includes('outdoor') ? 'var(--alarm)' : 'var(--ink)'}
          strokeWidth={zones.carried.includes('outdoor') ? 7 : 3}
        />
        <text x={x + 12} y={y + 28} fontSize="24" fill="var(--ink)" fontWeight="bold">
          {runs ? `${frames.hz[frame]} Hz` : 'at rest'}
        </text>
        <text x={x + 12} y={y + 49} fontSize="17" fill="var(--ink-soft)">
          {frames.mode[frame]}
        </text>
        <text x={x + 12} y={y + 69} fontSize="17" fill="var(--ink-soft)">
          {frames.boils[frame] ?? '–'} / {frames.condenses[frame] ?? '–'} {zones.unit}
        </text>
      </g>
      {plan.rooms.map((box) => {
        const room = rooms.get(box.key)
        const calls = room?.calls[frame] ?? false
        const valve = room?.valve[frame] ?? null
        const carries = zones.carried.includes(box.key)
        return (
          <g key={box.key} data-part={box.key} data-carries={carries}>
            <path
              d={pathOf(box.pipe)}
              stroke={calls && runs ? 'var(--low)' : 'var(--rule-strong)'}
              strokeWidth={valve === null ? 3 : 3 + 7 * valve}
              strokeDasharray={calls ? undefined : '4 7'}
            />
            <g
              role="button"
              tabIndex={0}
              aria-pressed={box.key === part}
              aria-label={`${box.name}: over the time of the log`}
              onClick={() => onPart(box.key === part ? '' : box.key)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' && event.key !== ' ') return
                event.preventDefault()
                onPart(box.key === part ? '' : box.key)
              }}
              className="group cursor-pointer outline-none"
            >
              <rect
                x={box.x}
                y={box.y}
                width={box.width}
                height={box.height}
                rx="4"
                fill="var(--ground)"
                stroke={carries ? 'var(--alarm)' : 'var(--rule-strong)'}
                strokeWidth={carries ? 7 : 2}
              />
              <rect
                x={box.x - 5}
                y={box.y - 5}
                width={box.width + 10}
                height={box.height + 10}
                rx="8"
                stroke={box.key === part ? 'var(--accent)' : 'var(--ink)'}
                strokeWidth="4"
                className={box.key === part ? '' : 'opacity-0 group-focus-visible:opacity-100'}
              />
              <text x={box.name_at[0]} y={box.name_at[1]} fontSize="18" fill="var(--ink)">
                {box.name.length > box.letters
                  ? `${box.name.slice(0, box.letters - 1)}…`
                  : box.name}
              </text>
              <text
                x={box.has_at[0]}
                y={box.has_at[1]}
                fontSize="36"
                fontWeight="bold"
                fill="var(--ink)"
                className="tabular-nums"
              >
                {room?.has[frame]?.toFixed(1) ?? '–'}
              </text>
              <text x={box.wants_at[0]} y={box.wants_at[1]} fontSize="17" fill="var(--ink-soft)">
                {room?.wants[frame] == null ? '' : `wants ${room.wants[frame].toFixed(1)}`}
              </text>
              <ValveBar box={box} valve={valve} calls={calls} />
            </g>
          </g>
        )
      })}
      {plan.branches.map((box) => (
        <BranchStrokes key={`${box.name}-${box.y}`} box={box} />
      ))}
    </svg>
  )
}

type BranchProps = { box: Zones['plan']['branches'][number] }

/** A branch box on its storey’s ceiling: its name, a hole for each port. */
function BranchStrokes({ box }: BranchProps) {
  const pitch = box.width / box.ports
  return (
    <g data-branch={box.name}>
      <title>{`Branch box ${box.name}: ${box.ports} ports, to ${box.rooms.join(', ')}`}</title>
      <rect
        x={box.x}
        y={box.y}
        width={box.width}
        height={box.height}
        rx="3"
        fill="var(--ground)"
        stroke="var(--ink)"
        strokeWidth="2"
      />
      {Array.from({ length: box.ports }, (_, i) => (
        <circle
          key={i}
          cx={box.x + pitch * (i + 0.5)}
          cy={box.y + box.height / 2}
          r="2.5"
          fill="var(--ink)"
        />
      ))}
    </g>
  )
}

type BarProps = { box: Zones['plan']['rooms'][number]; valve: number | null; calls: boolean }

/** How far a room’s valve is open: a bar along the foot of its box. */
function ValveBar({ box, valve, calls }: BarProps) {
  const [x, y, width, height] = box.bar
  return (
    <g>
      <rect {...{ x, y, width, height }} stroke="var(--rule-strong)" />
      {valve !== null && (
        <rect
          {...{ x, y, height }}
          width={Math.max(width * Math.min(valve, 1), 0)}
          fill={calls ? 'var(--ink)' : 'var(--rule-strong)'}
        />
      )}
    </g>
  )
}

function pathOf(points: number[][]): string {
  return points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('')
}

function spoken(zones: Zones, frame: number): string {
  return zones.rooms
    .slice(0, 6)
    .map(
      (room) => `${room.name} ${room.has[frame] ?? 'not read'}, wants ${room.wants[frame] ?? ''}`,
    )
    .join('; ')
}
