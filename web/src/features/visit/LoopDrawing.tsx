import type { Assessment, Instrument, Loop, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { useSize } from '../../state/size'
import { useSpoken } from '../../state/spoken'
import { layOutLoop, pathThrough, PLACE, type Geometry } from '../../lib/loopGeometry'
import { Air, GapMark, Ground, Parts } from './LoopParts'

type Props = {
  loop: Loop
  assessment: Assessment
  vocabulary: Vocabulary
  instruments: Instrument[]
  onProbe: (key: string) => void
  onPlace: (key: string, point: string) => void
}

const FOOT = 44

/** The Loop: the refrigerant's way round, unrolled. Height is temperature; gaps are the verdict. */
export function LoopDrawing(props: Props) {
  const { loop, assessment, vocabulary, instruments, onProbe, onPlace } = props
  const [frame, size] = useSize({ width: 860, height: 330 })
  const narrow = size.width < 560
  const { spoken } = useSpoken()
  const drawn = layOutLoop(loop, assessment.targets, size.width, size.height - FOOT)
  const unit = vocabulary.derived.find((one) => one.key === 'superheat')?.unit ?? ''
  return (
    <figure className="flex h-full flex-col">
      <div ref={frame} className="relative min-h-0 flex-1">
        <Probes drawn={drawn} instruments={instruments} onProbe={onProbe} />
        {!narrow && (
          <FreePlaces
            drawn={drawn}
            instruments={instruments}
            width={size.width}
            top={size.height - FOOT - 20}
            onPlace={onPlace}
          />
        )}
        <svg
          width={size.width}
          height={size.height}
          role="img"
          aria-label={inWords(drawn, unit)}
          className="block select-none"
        >
          <Ground drawn={drawn} width={size.width} />
          <Air drawn={drawn} narrow={narrow} />
          {drawn.levels.map((level) => (
            <g key={level.side} stroke={`var(--${level.side})`}>
              <path
                d={pathThrough([level.from, level.to])}
                strokeWidth="1.6"
                strokeDasharray={level.side === 'high' ? '10 5' : '2 4'}
              />
            </g>
          ))}
          {drawn.stretches.map((stretch, i) => (
            <path
              key={i}
              d={pathThrough(stretch.points)}
              fill="none"
              stroke={`var(--${stretch.side})`}
              strokeWidth={stretch.sure ? 4.5 : 2}
              strokeDasharray={stretch.sure ? undefined : '1 6'}
              strokeLinecap="round"
              strokeLinejoin="round"
            />
          ))}
          {drawn.levels.map((level) => (
            <text
              key={level.side}
              x={level.to.x - 4}
              y={level.side === 'high' ? level.from.y - 7 : level.from.y + 17}
              textAnchor="end"
              className="fill-ink text-[13px]"
            >
              {narrow ? (level.side === 'high' ? 'Condenser' : 'Evaporator') : level.label}{' '}
              <tspan className="font-bold">{formatNumber(level.value, 1)}</tspan>
            </text>
          ))}
          {drawn.gaps.map((gap) => (
            <GapMark
              key={gap.key}
              gap={gap}
              assessment={assessment}
              unit={unit}
              narrow={narrow}
              right={size.width - 2}
            />
          ))}
          <Steps drawn={drawn} assessment={assessment} unit={unit} />
          {drawn.marks.map((mark) => (
            <g key={mark.key} data-mark={mark.key}>
              {spoken.points.includes(POINT_OF[mark.key] ?? '') && (
                <circle
                  data-spoken
                  cx={mark.x}
                  cy={mark.y}
                  r="15"
                  fill="none"
                  stroke="var(--accent)"
                  strokeWidth="4"
                />
              )}
              <circle
                cx={mark.x}
                cy={mark.y}
                r="6"
                fill="var(--sheet)"
                stroke={`var(--${mark.side})`}
                strokeWidth="3.5"
              />
              <text
                x={narrow && mark.side === 'high' ? mark.x : mark.x - 11}
                y={mark.y + (mark.side === 'high' ? (narrow ? 22 : 17) : -9)}
                textAnchor={narrow && mark.side === 'high' ? 'middle' : 'end'}
                className="fill-ink text-[13px] font-bold"
              >
                {formatNumber(mark.value, 1)}
              </text>
            </g>
          ))}
          {drawn.offScale && (
            <g>
              <path
                d={`M${drawn.offScale.x} 20v-13m-5 6 5-6 5 6`}
                fill="none"
                stroke="var(--high)"
                strokeWidth="2.5"
              />
              <text x={drawn.offScale.x + 9} y={11} className="fill-ink text-[13px]">
                {drawn.offScale.label}{' '}
                <tspan className="font-bold">{formatNumber(drawn.offScale.value, 1)}</tspan>
              </text>
            </g>
          )}
          <Parts loop={loop} width={size.width} top={size.height - FOOT} narrow={narrow} />
        </svg>
      </div>
      <figcaption className="sr-only">{inWords(drawn, unit)}</figcaption>
    </figure>
  )
}

/** Where the walk found too large a step: drawn across the line, with its size beside it. */
function Steps({
  drawn,
  assessment,
  unit,
}: {
  drawn: Geometry
  assessment: Assessment
  unit: string
}) {
  return assessment.walk
    .filter((stretch) => stretch.state === 'restricted')
    .map((stretch) => {
      const [from, to] = [stretch.start, stretch.end].map((point) =>
        drawn.marks.find((mark) => POINT_OF[mark.key] === point),
      )
      if (!from || !to) return null
      const [x, y] = [(from.x + to.x) / 2, (from.y + to.y) / 2]
      return (
        <g key={stretch.key} data-restricted={stretch.key}>
          <path
            d={`M${x - 7} ${y - 16}l5 8l-9 8h9l-9 8l5 8M${x + 7} ${y - 16}l-5 8l9 8h-9l9 8l-5 8`}
            fill="none"
            stroke="var(--alarm)"
            strokeWidth="3"
            strokeLinejoin="round"
          />
          <text
            x={x}
            y={Math.max(from.y, to.y) + 38}
            textAnchor="middle"
            paintOrder="stroke"
            stroke="var(--ground)"
            strokeWidth="5"
            className="fill-ink text-[14px] font-bold"
          >
            restricted, {formatNumber(stretch.drop, 1)} {unit}
          </text>
        </g>
      )
    })
}

/** What sits on the Loop: each probe is a button at its place, big enough for a thumb. */
function Probes({
  drawn,
  instruments,
  onProbe,
}: {
  drawn: Geometry
  instruments: Instrument[]
  onProbe: (key: string) => void
}) {
  const placed = drawn.marks.flatMap((mark) => {
    const point = POINT_OF[mark.key]
    const probe = instruments.find((one) => one.point === point)
    return probe ? [{ ...mark, probe }] : []
  })
  const air = drawn.air.flatMap((one) => {
    const probe = instruments.find((each) => each.point === one.key)
    return probe ? [{ x: (one.from + one.to) / 2, y: one.y + 8, probe }] : []
  })
  return [...placed, ...air].map(({ x, y, probe }) => (
    <button
      key={probe.key}
      type="button"
      data-probe={probe.key}
      title={probe.label}
      aria-label={`${probe.label} on ${probe.place}${probe.counts ? '' : ', ignored'}: zero, move, swap or ignore it`}
      onClick={() => onProbe(probe.key)}
      style={{ left: x - 22, top: y - 22 }}
      className={`absolute h-11 w-11 rounded ${probe.counts ? '' : 'border-2 border-dashed border-alarm'}`}
    />
  ))
}

type FreeProps = {
  drawn: Geometry
  instruments: Instrument[]
  width: number
  top: number
  onPlace: (key: string, point: string) => void
}

/** Stations nobody reads, while an instrument that fits lies idle: one tap puts it there. */
function FreePlaces({ drawn, instruments, width, top, onPlace }: FreeProps) {
  const read = new Set(drawn.marks.map((mark) => mark.key))
  const free = instruments.filter((one) => one.point === '')
  return Object.entries(POINT_OF).flatMap(([station, point]) => {
    const probe = free.find((one) => one.where.includes(point))
    if (read.has(station) || !probe || point === 'discharge_line_temp') return []
    const place = point.replace(/_temp$/, '').replaceAll('_', ' ')
    return [
      <button
        key={station}
        type="button"
        title={`Place ${probe.label}: ${place}`}
        aria-label={`Place ${probe.label} on ${place}`}
        onClick={() => onPlace(probe.key, point)}
        style={{ left: (PLACE[station] ?? 0) * width - 22, top: top - 22 }}
        className="absolute grid h-11 w-11 place-items-center"
      >
        <span className="grid h-6 w-6 place-items-center rounded-full border-2 border-dashed border-rule-strong bg-ground leading-none">
          +
        </span>
      </button>,
    ]
  })
}

/** Which point the mark at a station is read at. */
const POINT_OF: Record<string, string> = {
  discharge_line: 'discharge_line_temp',
  liquid_line: 'liquid_line_temp',
  drier_in: 'drier_inlet_temp',
  drier_out: 'drier_outlet_temp',
  liquid_line_indoor: 'liquid_line_temp_indoor',
  evaporator_outlet: 'evaporator_outlet_temp',
  suction_line: 'suction_line_temp',
}

function inWords(drawn: Geometry, unit: string): string {
  const levels = drawn.levels.map((one) => `${one.label} ${formatNumber(one.value, 1)} ${unit}`)
  const marks = drawn.marks.map((one) => `${one.label} ${formatNumber(one.value, 1)} ${unit}`)
  return `The Loop. ${[...levels, ...marks].join('; ')}.`
}
