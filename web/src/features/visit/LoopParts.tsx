import type { Assessment, Loop } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { useSpoken } from '../../state/spoken'
import { PLACE, type Gap, type Geometry } from '../../lib/loopGeometry'

export function Ground({ drawn, width }: { drawn: Geometry; width: number }) {
  return (
    <g>
      {drawn.ticks.map((tick) => (
        <g key={tick.value}>
          <path d={`M0 ${tick.y}H${width}`} stroke="var(--rule)" strokeWidth="1" />
          {drawn.levels.every((level) => Math.abs(level.from.y - tick.y + 6) > 11) && (
            <text x={2} y={tick.y - 3} className="fill-soft text-[11px]">
              {formatNumber(tick.value, 0)}°
            </text>
          )}
        </g>
      ))}
    </g>
  )
}

export function Air({ drawn, narrow }: { drawn: Geometry; narrow: boolean }) {
  return (
    <g>
      {drawn.air.map((air) => (
        <g key={air.key}>
          <path
            d={wave(air.from, air.to, air.y)}
            fill="none"
            stroke="var(--rule-strong)"
            strokeWidth="1.6"
          />
          <text
            x={(air.from + air.to) / 2}
            y={air.y + 16}
            textAnchor="middle"
            className="fill-soft text-[12px]"
          >
            {narrow ? air.label.replace(' air', '') : air.label} {formatNumber(air.value, 1)}
          </text>
        </g>
      ))}
    </g>
  )
}

function wave(from: number, to: number, y: number): string {
  const count = Math.max(2, Math.round((to - from) / 16))
  const half = (to - from) / count / 2
  return `M${from} ${y}` + `q${half / 2} -5 ${half} 0t${half} 0`.repeat(count)
}

type GapProps = {
  gap: Gap
  assessment: Assessment
  unit: string
  narrow: boolean
  right: number
}

/** A gap as it is read off the drawing: level, line, the number, and its bracket beside it. */
export function GapMark({ gap, assessment, unit, narrow, right }: GapProps) {
  const value = assessment.derived[gap.key]
  const [top, bottom] = [Math.min(gap.level, gap.line), Math.max(gap.level, gap.line)]
  const beside = gap.x + 26
  const { spoken } = useSpoken()
  const isSpoken = spoken.signs.includes(gap.key)
  return (
    <g data-gap={gap.key}>
      {isSpoken && (
        <path
          data-spoken
          d={`M${gap.x} ${top}V${bottom}`}
          stroke="var(--accent)"
          strokeWidth="12"
          strokeLinecap="round"
        />
      )}
      <path d={`M${gap.x} ${top}V${bottom}`} stroke="var(--ink)" strokeWidth="2" />
      <path d={`M${gap.x - 6} ${gap.level}h12`} stroke="var(--ink)" strokeWidth="2" />
      {gap.bracket && (
        <path
          d={`M${beside - 8} ${gap.bracket.from}h8V${gap.bracket.to}h-8`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="3"
        />
      )}
      <path
        d={`M${gap.x + 8} ${gap.line}H${beside + 4}`}
        stroke="var(--ink)"
        strokeWidth="1.2"
        strokeDasharray="2 2"
      />
      {value !== null && value !== undefined && (
        <text
          x={narrow && gap.key === 'superheat' ? right : beside + 8}
          y={narrow && gap.key === 'superheat' ? gap.line - 14 : labelHeight(gap)}
          textAnchor={narrow && gap.key === 'superheat' ? 'end' : 'start'}
          paintOrder="stroke"
          stroke="var(--ground)"
          strokeWidth="5"
          strokeLinejoin="round"
          className="fill-ink text-[15px] font-bold"
        >
          {formatNumber(value, 1)}
          <tspan className="text-[12px] font-normal">
            {' '}
            {unit} {narrow ? '' : gap.key}
          </tspan>
        </text>
      )}
    </g>
  )
}

const ROOM_FOR_LABEL = 26

/** Inside the gap where it is tall enough, else clear of both its lines on the empty side. */
function labelHeight(gap: Gap): number {
  const [top, bottom] = [Math.min(gap.level, gap.line), Math.max(gap.level, gap.line)]
  if (bottom - top >= ROOM_FOR_LABEL) return (top + bottom) / 2 + 5
  return gap.key === 'superheat' ? top - 10 : bottom + 38
}

const PARTS = [
  { key: 'compressor_out', label: 'Compressor', narrow: 'Comp.', anchor: 'start' },
  { key: 'condenser', label: 'Condenser', narrow: 'Cond.', anchor: 'middle' },
  { key: 'liquid_line', label: 'Liquid line', narrow: 'Liquid', anchor: 'middle' },
  { key: 'metering_device', label: 'Metering device', narrow: 'Device', anchor: 'middle' },
  { key: 'evaporator', label: 'Evaporator', narrow: 'Evap.', anchor: 'middle' },
  { key: 'suction_line', label: 'Suction line', narrow: 'Suction', anchor: 'middle' },
] as const

type PartsProps = { loop: Loop; width: number; top: number; narrow: boolean }

/** The parts along the foot, in the order the refrigerant meets them. */
export function Parts({ loop, width, top, narrow }: PartsProps) {
  const labels = new Map(loop.stations.map((one) => [one.key, one.label]))
  return (
    <g>
      <path d={`M0 ${top + 8}H${width}`} stroke="var(--rule-strong)" strokeWidth="1.5" />
      {PARTS.filter((part) => labels.has(part.key)).map((part) => {
        const called = labels.get(part.key) ?? part.label
        const x = (PLACE[part.key] ?? 0) * width
        return (
          <g key={part.key}>
            <path d={`M${x} ${top + 3}v10`} stroke="var(--ink)" strokeWidth="2" />
            <text
              x={part.anchor === 'start' ? x - 6 : x}
              y={top + 30}
              textAnchor={part.anchor}
              className="fill-soft text-[12.5px]"
            >
              {narrow && called === part.label ? part.narrow : called}
            </text>
          </g>
        )
      })}
    </g>
  )
}
