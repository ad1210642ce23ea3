import type { Assessment, Reading, Target, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { placeInWords } from '../../lib/place'
import { useSpoken } from '../../state/spoken'
import { BracketScale } from '../../ui/BracketScale'
import { OpenWorking } from './OpenWorking'

type Props = {
  visitId: string
  assessment: Assessment | null
  readings: Reading[]
  vocabulary: Vocabulary
}

const FOUR = [
  { key: 'evaporator_saturation', side: 'low', from: 'suction_pressure' },
  { key: 'superheat', side: 'low', from: null },
  { key: 'condenser_saturation', side: 'high', from: 'liquid_pressure' },
  { key: 'subcooling', side: 'high', from: null },
] as const

/** The four numbers that matter, readable at arm's length, two of them against their windows. */
export function FourNumbers({ visitId, assessment, readings, vocabulary }: Props) {
  const { spoken } = useSpoken()
  const isJudged = !assessment?.readiness.some((gate) => gate.key === 'application_not_judged')
  return (
    <dl className="grid grid-cols-2 gap-x-5 gap-y-3 xl:grid-cols-4">
      {FOUR.map(({ key, side, from }) => {
        const row = vocabulary.derived.find((one) => one.key === key)
        const value = assessment?.derived[key] ?? null
        const target = assessment?.targets[key]
        const reading = readings.find(
          (one) => one.point === from && (one.state === 'live' || one.state === 'current'),
        )
        return (
          <div
            key={key}
            data-side={side}
            data-number={key}
            data-spoken={spoken.signs.includes(key) || undefined}
            className="min-w-0 border-l-4 pl-3 data-spoken:bg-sheet data-spoken:outline-3 data-spoken:outline-accent data-[side=high]:border-dashed data-[side=high]:border-high data-[side=low]:border-solid data-[side=low]:border-low"
          >
            <dt className="truncate text-[0.92rem] text-soft">{row?.label}</dt>
            <dd>
              <p className="text-[2.5rem] leading-none font-bold whitespace-nowrap">
                {value === null ? (
                  '—'
                ) : (
                  <OpenWorking visitId={visitId} of={key} label={row?.label ?? key}>
                    {formatNumber(value, row?.decimals ?? 1)}
                  </OpenWorking>
                )}
                <span className="ml-1 text-[1.05rem] font-normal text-soft">{row?.unit}</span>
              </p>
              {from !== null && (
                <p className="mt-1.5 text-[0.92rem] text-soft">
                  {reading
                    ? `${side} side, at ${formatNumber(reading.value, reading.decimals)} ${reading.unit}`
                    : 'no pressure yet'}
                </p>
              )}
              {from === null && value !== null && target && (
                <AgainstTarget
                  visitId={visitId}
                  judged={key}
                  value={value}
                  target={target}
                  unit={row?.unit ?? ''}
                />
              )}
              {from === null && (value === null || !target) && (
                <p className="mt-1.5 text-[0.92rem] text-soft">
                  {value === null
                    ? 'needs pressure and line'
                    : isJudged
                      ? 'target needs wet bulb and outdoor air'
                      : 'no target here'}
                </p>
              )}
            </dd>
          </div>
        )
      })}
    </dl>
  )
}

type AgainstProps = {
  visitId: string
  judged: string
  value: number
  target: Target
  unit: string
}

function AgainstTarget({ visitId, judged, value, target, unit }: AgainstProps) {
  const words = placeInWords(value, target, unit, 1, 'in the window')
  const window = `${formatNumber(target.low, 1)} to ${formatNumber(target.high, 1)}`
  return (
    <>
      <BracketScale
        value={value}
        low={target.low}
        high={target.high}
        describedAs={`${words}; window ${window} ${unit}`}
      />
      <OpenWorking
        visitId={visitId}
        of={`target_${judged}`}
        label={`target ${judged}`}
        className="text-[0.92rem] leading-tight"
      >
        <span>
          <strong className="block">{words}</strong>
          <span className="text-soft">
            {window}, {target.source}
          </span>
        </span>
      </OpenWorking>
    </>
  )
}
