import type { DrawnLoop } from '../api/types'
import { pathThrough, wave } from './frame'
import { LetterText } from './LetterText'

type Stroke = DrawnLoop['strokes'][number]
type Pen = { hue: string; wide: number; dash?: string; round?: boolean }

const PENS: Record<Exclude<Stroke['role'], 'band' | 'restricted'>, Pen> = {
  tick: { hue: 'var(--rule)', wide: 1 },
  base: { hue: 'var(--rule-strong)', wide: 1.5 },
  part: { hue: 'var(--ink)', wide: 2 },
  air: { hue: 'var(--rule-strong)', wide: 1.6 },
  level: { hue: 'side', wide: 1.6, dash: '9 5' },
  estimate: { hue: 'side', wide: 2.5, dash: '6 6' },
  guess: { hue: 'side', wide: 2, dash: '1 6', round: true },
  sure: { hue: 'side', wide: 4.5, round: true },
  gap: { hue: 'var(--ink)', wide: 2 },
  bracket: { hue: 'var(--ink)', wide: 3 },
  leader: { hue: 'var(--ink)', wide: 2.5 },
  rung: { hue: 'side', wide: 2.5 },
}

type Props = { drawn: DrawnLoop; spokenPoints: string[]; spokenSigns: string[] }

/** The lines and letters of a laid-out Loop, as they are. It computes nothing. */
export function LoopStrokes({ drawn, spokenPoints, spokenSigns }: Props) {
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      aria-hidden
      className="block h-full w-full select-none"
    >
      {drawn.strokes.map((stroke, n) => (
        <Line
          key={n}
          stroke={stroke}
          isSpoken={stroke.role === 'gap' && spokenSigns.includes(stroke.key ?? '')}
        />
      ))}
      {drawn.marks.map((mark) => (
        <g key={mark.key} data-mark={mark.key}>
          {spokenPoints.includes(mark.point) && (
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
        </g>
      ))}
      {drawn.letters.map((one) => (
        <LetterText
          key={`${one.role}${one.key}${one.text}`}
          of={one}
          isSoft={SOFT.includes(one.role)}
        />
      ))}
    </svg>
  )
}

const SOFT: DrawnLoop['letters'][number]['role'][] = ['tick', 'air', 'part']

function Line({ stroke, isSpoken }: { stroke: Stroke; isSpoken: boolean }) {
  const hue = !stroke.side ? 'var(--ink)' : `var(--${stroke.side})`
  if (stroke.role === 'band') {
    return <path d={`${pathThrough(stroke.points)}Z`} fill={hue} opacity="0.14" />
  }
  if (stroke.role === 'restricted') return <Restricted stroke={stroke} />
  const pen = PENS[stroke.role]
  return (
    <>
      {isSpoken && (
        <path
          data-spoken
          d={pathThrough(stroke.points)}
          stroke="var(--accent)"
          strokeWidth="12"
          strokeLinecap="round"
        />
      )}
      <path
        data-role={stroke.role}
        data-of={stroke.key || undefined}
        d={stroke.role === 'air' ? wave(stroke.points) : pathThrough(stroke.points)}
        fill="none"
        stroke={pen.hue === 'side' ? hue : pen.hue}
        strokeWidth={pen.wide}
        strokeDasharray={pen.dash}
        strokeLinecap={pen.round ? 'round' : undefined}
        strokeLinejoin="round"
      />
    </>
  )
}

/** Two jagged lines across the pipe: a step was found here. */
function Restricted({ stroke }: { stroke: Stroke }) {
  const [x, y] = stroke.points[0] ?? [0, 0]
  return (
    <path
      data-restricted={stroke.key}
      d={`M${x - 7} ${y - 16}l5 8l-9 8h9l-9 8l5 8M${x + 7} ${y - 16}l-5 8l9 8h-9l9 8l-5 8`}
      fill="none"
      stroke="var(--alarm)"
      strokeWidth="3"
      strokeLinejoin="round"
    />
  )
}
