import { usePressureEnthalpy } from '../../api/queries'
import type { PressureEnthalpy, Slip } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { ruleGeometry } from '../../lib/ruleGeometry'

type Props = { fluid: string; slip: Slip | undefined }

const WIDTH = 372
const HEIGHT = 84

/** Pressure over temperature on one rule: the two ends of boiling as two pointers. */
export function SaturationRule({ fluid, slip }: Props) {
  const chart = usePressureEnthalpy(fluid)
  if (chart.status !== 'ready' || slip === undefined) return null
  const lines = new Map(slip.lines.map((line) => [line.number.key, line.number.value]))
  const dew = lines.get('dew')
  const bubble = lines.get('bubble')
  if (dew === undefined || bubble === undefined) return null
  return <Rule chart={chart.data} dew={dew} bubble={bubble} />
}

type RuleProps = { chart: PressureEnthalpy; dew: number; bubble: number }

function Rule({ chart, dew, bubble }: RuleProps) {
  const at = ruleGeometry(chart.saturation, (dew + bubble) / 2, chart.units !== 'ip', WIDTH)
  const x = { dew: at.x(dew), bubble: at.x(bubble) }
  const twoEnds = x.dew - x.bubble > 3
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={
        `Rule of ${chart.refrigerant}: dew ${formatNumber(dew, 1)}, ` +
        `bubble ${formatNumber(bubble, 1)} ${chart.temperature_unit}`
      }
      className="w-full"
      fontSize="12"
    >
      <path d={`M0 42H${WIDTH}`} stroke="var(--ink)" strokeWidth="1.5" />
      {at.pressures.map(({ value, x: place, long }) => (
        <g key={value}>
          <path d={`M${place} 42v${long ? -11 : -6}`} stroke="var(--ink)" />
          {long && (
            <text x={place} y="26" textAnchor="middle" fill="var(--ink)">
              {value}
            </text>
          )}
        </g>
      ))}
      {at.temperatures.map(({ value, x: place, long }) => (
        <g key={value}>
          <path d={`M${place} 42v${long ? 11 : 6}`} stroke="var(--ink)" />
          {long && (
            <text x={place} y="66" textAnchor="middle" fill="var(--ink)">
              {value}
            </text>
          )}
        </g>
      ))}
      {twoEnds && <path d={`M${x.bubble} 42H${x.dew}`} stroke="var(--accent)" strokeWidth="8" />}
      <path d={`M${x.dew} 34v16`} stroke="var(--accent)" strokeWidth="4" />
      {twoEnds && <path d={`M${x.bubble} 34v16`} stroke="var(--accent)" strokeWidth="4" />}
      <text x="0" y="12" fill="var(--ink-soft)">
        {chart.gauge_unit} at dew
      </text>
      <text x="0" y="82" fill="var(--ink-soft)">
        {chart.temperature_unit}
      </text>
      {twoEnds && (
        <text x={WIDTH} y="82" textAnchor="end" fill="var(--ink-soft)">
          the band is the glide
        </text>
      )}
    </svg>
  )
}
