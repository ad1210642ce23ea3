import { useId } from 'react'
import { usePressureEnthalpy } from '../../api/queries'
import type { Cycle, PressureEnthalpy } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { phGeometry } from '../../lib/phGeometry'
import { useNarrow } from '../../state/narrow'
import { LoadState } from '../../ui/LoadState'

type Props = { fluid: string; cycle: Cycle | null }

const WIDE = { width: 1000, height: 470 }
const NARROW = { width: 370, height: 360 }

/** The running cycle on pressure and enthalpy, drawn from the readings on the slips. */
export function PressureEnthalpyCard({ fluid, cycle }: Props) {
  const chart = usePressureEnthalpy(fluid)
  return (
    <section
      aria-label="Cycle on pressure and enthalpy"
      className="mb-4 rounded-sm border-2 border-ink bg-sheet"
    >
      <header className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 border-b border-rule px-3">
        <h2 className="text-[1.05rem]">Cycle, {fluid}</h2>
        <Sums cycle={cycle} chart={chart.status === 'ready' ? chart.data : null} />
      </header>
      <div className="p-2">
        <LoadState of={chart}>{(ready) => <Drawing chart={ready} cycle={cycle} />}</LoadState>
        {(cycle?.corners.length ?? 0) === 0 && (
          <p className="px-1 pb-1 text-[0.94rem] text-soft">
            Both pressures with suction and liquid line, on the superheat slip, draw the cycle.
          </p>
        )}
      </div>
    </section>
  )
}

function Sums({ cycle, chart }: { cycle: Cycle | null; chart: PressureEnthalpy | null }) {
  if (!cycle || !chart || cycle.effect === null) return null
  const parts = [`effect ${formatNumber(cycle.effect, 1)} ${chart.enthalpy_unit}`]
  if (cycle.work !== null) {
    const guessed = cycle.corners.some((corner) => corner.estimated)
    parts.push(
      `work ${formatNumber(cycle.work, 1)} ${chart.enthalpy_unit}${guessed ? ' (estimated)' : ''}`,
    )
  }
  if (cycle.compression !== null) {
    parts.push(`compression ${Math.round(cycle.compression * 100)} % of ideal`)
  }
  return <p className="text-[0.94rem]">{parts.join(', ')}</p>
}

function Drawing({ chart, cycle }: { chart: PressureEnthalpy; cycle: Cycle | null }) {
  const clip = useId()
  const { width, height } = useNarrow() ? NARROW : WIDE
  const box = { left: 50, top: 12, right: width - 8, bottom: height - 42 }
  const at = phGeometry(chart, cycle, box)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={described(chart, cycle)}
      className="w-full"
      fontSize="13"
    >
      <clipPath id={clip}>
        <rect x={box.left} y={box.top} width={box.right - box.left} height={box.bottom - box.top} />
      </clipPath>
      {at.pressures.map(({ value, y }) => (
        <g key={value}>
          <path d={`M${box.left} ${y}H${box.right}`} stroke="var(--rule)" />
          <text x={box.left - 7} y={y + 4} textAnchor="end" fill="var(--ink-soft)">
            {value}
          </text>
        </g>
      ))}
      {at.enthalpies.map(({ value, x }) => (
        <g key={value}>
          <path d={`M${x} ${box.top}V${box.bottom}`} stroke="var(--rule)" />
          <text x={x} y={box.bottom + 17} textAnchor="middle" fill="var(--ink-soft)">
            {value}
          </text>
        </g>
      ))}
      <text x={box.right} y={height - 6} textAnchor="end" fill="var(--ink-soft)">
        enthalpy, {chart.enthalpy_unit}
      </text>
      <text x={8} y={height - 6} fill="var(--ink-soft)">
        pressure, {chart.pressure_unit}
      </text>
      <g clipPath={`url(#${clip})`} fill="none">
        {at.isentropes.map((d) => (
          <path key={d} d={d} stroke="var(--rule-strong)" strokeDasharray="1 4" />
        ))}
        {at.qualities.map((d) => (
          <path key={d} d={d} stroke="var(--rule)" strokeDasharray="6 4" />
        ))}
        {at.isotherms.map(({ value, path }) => (
          <path key={value} d={path} stroke="var(--rule-strong)" />
        ))}
        <path d={at.bubble} stroke="var(--ink)" strokeWidth="2.2" />
        <path d={at.dew} stroke="var(--ink)" strokeWidth="2.2" />
      </g>
      {at.isotherms.map(
        ({ value, label }) =>
          label &&
          label.y > box.top + 16 && (
            <text
              key={value}
              x={label.x}
              y={label.y - 5}
              textAnchor="middle"
              fill="var(--ink-soft)"
              fontSize="12"
            >
              {Math.round(value)}°
            </text>
          ),
      )}
      <path
        d={at.cycle}
        fill="none"
        stroke="var(--accent)"
        strokeWidth="4"
        strokeLinejoin="round"
      />
      {at.corners.map((corner) => {
        const toLeft = corner.key === 'liquid' || corner.key === 'fed' || corner.x > box.right - 130
        return (
          <g key={corner.key}>
            <circle
              cx={corner.x}
              cy={corner.y}
              r="6"
              fill={corner.estimated ? 'var(--sheet)' : 'var(--ink)'}
              stroke="var(--ink)"
              strokeWidth="2"
            />
            <text
              x={corner.x + (toLeft ? -10 : 10)}
              y={corner.y + (corner.key === 'fed' || corner.key === 'suction' ? 20 : -10)}
              textAnchor={toLeft ? 'end' : 'start'}
              fill="var(--ink)"
              fontWeight="700"
              stroke="var(--sheet)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              {corner.label}
              {corner.estimated ? ' (est.)' : ''}
            </text>
          </g>
        )
      })}
    </svg>
  )
}

function described(chart: PressureEnthalpy, cycle: Cycle | null): string {
  const corners = (cycle?.corners ?? []).map(
    (c) =>
      `${c.label} ${formatNumber(c.temperature, 0)} ${chart.temperature_unit} at ` +
      `${formatNumber(c.pressure, 1)} ${chart.pressure_unit}`,
  )
  const running = corners.length > 0 ? `: ${corners.join('; ')}` : ', no cycle yet'
  return `Pressure against enthalpy of ${chart.refrigerant}${running}`
}
