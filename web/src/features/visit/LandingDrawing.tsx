import type { Advice, Assessment, Footprint } from '../../api/types'
import { formatNumber } from '../../lib/format'
import {
  ellipseOf,
  forecastOf,
  layOutLanding,
  type LandingGeometry,
} from '../../lib/landingGeometry'
import { useSize } from '../../state/size'
import { useSpoken } from '../../state/spoken'

type Props = {
  footprints: Footprint[]
  assessment: Assessment
  nudge: Advice | null
  unit: string
}

/** The Landing: superheat against subcooling, the window, and every settled step of the visit. */
export function LandingDrawing({ footprints, assessment, nudge, unit }: Props) {
  const [frame, size] = useSize({ width: 720, height: 330 })
  if (footprints.length === 0) {
    return (
      <p className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
        The target map needs superheat and subcooling: both pressures and both line temperatures.
      </p>
    )
  }
  const drawn = layOutLanding(footprints, assessment, size.width, size.height, nudge)
  return (
    <figure className="h-full" data-landing={footprints.length}>
      <div ref={frame} className="h-full">
        <svg
          width={size.width}
          height={size.height}
          role="img"
          aria-label={inWords(footprints, unit)}
        >
          <Axes drawn={drawn} width={size.width} height={size.height} unit={unit} />
          <Window drawn={drawn} />
          <Suspected drawn={drawn} assessment={assessment} />
          <Steps drawn={drawn} />
          <Ahead drawn={drawn} nudge={nudge} />
        </svg>
      </div>
    </figure>
  )
}

type Drawn = { drawn: LandingGeometry }

function Axes({
  drawn,
  width,
  height,
  unit,
}: Drawn & { width: number; height: number; unit: string }) {
  const foot = height - 40
  return (
    <g className="fill-soft text-[14px]">
      {drawn.yTicks.map((tick) => (
        <g key={tick.value}>
          <path d={`M44 ${tick.at}H${width - 8}`} stroke="var(--rule)" />
          <text x={38} y={tick.at + 4} textAnchor="end">
            {formatNumber(tick.value, 0)}
          </text>
        </g>
      ))}
      {drawn.xTicks.map((tick) => (
        <g key={tick.value}>
          <path d={`M${tick.at} 10V${foot}`} stroke="var(--rule)" />
          <text x={tick.at} y={foot + 16} textAnchor="middle">
            {formatNumber(tick.value, 0)}
          </text>
        </g>
      ))}
      <text x={width - 8} y={height - 6} textAnchor="end" className="fill-ink text-[14px]">
        subcooling, {unit}
      </text>
      <text x={48} y={22} className="fill-ink text-[14px]">
        superheat, {unit}
      </text>
    </g>
  )
}

/** Both windows cross in the target: its corners are drawn, not filled. */
function Window({ drawn: { across, up } }: Drawn) {
  if (!across || !up) return null
  const corner = 12
  const { from: left, to: right } = across
  const { from: top, to: bottom } = up
  return (
    <g fill="none" stroke="var(--ink)" strokeWidth="3">
      <path
        d={`M${left} ${top + corner}V${top}h${corner}M${right - corner} ${top}h${corner}v${corner}`}
      />
      <path
        d={`M${left} ${bottom - corner}v${corner}h${corner}M${right - corner} ${bottom}h${corner}v-${corner}`}
      />
      <rect
        x={left}
        y={top}
        width={right - left}
        height={bottom - top}
        stroke="var(--rule-strong)"
        strokeWidth="1"
        strokeDasharray="3 4"
      />
    </g>
  )
}

/** Where the suspect being spoken of would put this system. */
function Suspected({ drawn, assessment }: Drawn & { assessment: Assessment }) {
  const { spoken } = useSpoken()
  const suspect = assessment.suspects.find((one) => one.fault === spoken.suspect)
  const ellipse = suspect ? ellipseOf(suspect, drawn) : null
  if (!suspect || !ellipse) return null
  return (
    <g data-suspected={suspect.fault}>
      <Ring ellipse={ellipse} dashes="7 4" label={`${suspect.label} would be here`} />
    </g>
  )
}

type RingProps = {
  ellipse: { cx: number; cy: number; rx: number; ry: number }
  label: string
  dashes?: string
}

/** A place on the Landing with its name under it. */
function Ring({ ellipse, label, dashes }: RingProps) {
  return (
    <>
      <ellipse
        {...ellipse}
        fill="none"
        stroke="var(--accent)"
        strokeWidth="3"
        strokeDasharray={dashes}
      />
      <text
        x={ellipse.cx}
        y={ellipse.cy + ellipse.ry + 16}
        textAnchor="middle"
        paintOrder="stroke"
        stroke="var(--ground)"
        strokeWidth="4"
        className="fill-ink text-[14px] font-bold"
      >
        {label}
      </text>
    </>
  )
}

/** Where the dose is expected to put it, before it is given. */
function Ahead({ drawn, nudge }: Drawn & { nudge: Advice | null }) {
  const ellipse = forecastOf(nudge, drawn)
  const now = drawn.steps.at(-1)
  if (!ellipse || !nudge || !now) return null
  const away = Math.hypot(ellipse.cx - now.x, ellipse.cy - now.y)
  const [dx, dy] = [(ellipse.cx - now.x) / (away || 1), (ellipse.cy - now.y) / (away || 1)]
  return (
    <g data-ahead={nudge.action}>
      <Ring
        ellipse={ellipse}
        label={`after ${formatNumber(nudge.amount, 1)} ${nudge.amount_unit}`}
      />
      {away > 30 && (
        <path
          d={`M${now.x + dx * 12} ${now.y + dy * 12}L${ellipse.cx} ${ellipse.cy}m${-dx * 10 - dy * 6} ${-dy * 10 + dx * 6}l${dx * 10 + dy * 6} ${dy * 10 - dx * 6}l${-dx * 10 + dy * 6} ${-dy * 10 - dx * 6}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2.5"
        />
      )}
    </g>
  )
}

function Steps({ drawn: { steps } }: Drawn) {
  const { spoken } = useSpoken()
  const marked = spoken.signs.some((sign) => sign === 'superheat' || sign === 'subcooling')
  return (
    <g>
      {steps.slice(1).map((step, index) => (
        <path
          key={index}
          d={`M${steps[index]?.x ?? 0} ${steps[index]?.y ?? 0}L${step.x} ${step.y}`}
          stroke="var(--rule-strong)"
          strokeWidth="2"
        />
      ))}
      {steps.map((step, index) => (
        <g key={index} data-step={step.isNow ? 'now' : index}>
          {step.isNow && marked && (
            <circle
              cx={step.x}
              cy={step.y}
              r="16"
              fill="none"
              stroke="var(--accent)"
              strokeWidth="4"
            />
          )}
          <circle
            cx={step.x}
            cy={step.y}
            r={step.isNow ? 9 : 5}
            fill={step.isNow ? 'var(--ink)' : 'var(--sheet)'}
            stroke="var(--ink)"
            strokeWidth="2.5"
          />
          <text
            x={step.x + 13}
            y={step.y - 8}
            paintOrder="stroke"
            stroke="var(--ground)"
            strokeWidth="4"
            className={`fill-ink text-[14px] ${step.isNow ? 'font-bold' : ''}`}
          >
            {step.label}
            {step.done !== '' && `: ${step.done.toLowerCase()}`}
          </text>
        </g>
      ))}
    </g>
  )
}

function inWords(footprints: Footprint[], unit: string): string {
  const steps = footprints.map(
    (step) =>
      `${step.done === '' ? '' : `${step.done}, then `}superheat ${formatNumber(step.superheat, 1)}, ` +
      `subcooling ${formatNumber(step.subcooling, 1)} ${unit}`,
  )
  return `The target map. ${steps.join('; ')}.`
}
