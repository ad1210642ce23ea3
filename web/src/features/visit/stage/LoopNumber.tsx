import type { DrawnLoop, Opened } from '../../../api/types'
import { OpenNumber } from '../../../ui/Opened'
import { OpenWorking } from '../OpenWorking'

type Props = {
  visitId: string
  number: DrawnLoop['numbers'][number]
  estimate: Opened | undefined
  scale: number
  isSpoken: boolean
}

const SMALL = 14
const LINE = 1.22

/** One of the four, as large as its frame says; it opens to how it came about. */
export function LoopNumber({ visitId, number, estimate, scale, isSpoken }: Props) {
  const px = (units: number) => units * scale
  const small = { fontSize: px(SMALL), lineHeight: LINE }
  const value = (
    <span
      data-value
      className="font-mono leading-none font-bold"
      style={{ fontSize: px(number.size) }}
    >
      {number.text}
    </span>
  )
  return (
    <div
      data-number={number.key}
      data-side={number.side}
      data-spoken={isSpoken || undefined}
      data-known={number.text !== '' || undefined}
      className="absolute data-spoken:rounded data-spoken:outline-3 data-spoken:outline-accent"
      style={{
        left: px(number.x),
        top: px(number.y),
        width: px(number.width + 2),
        height: px(number.height),
      }}
    >
      <div className="flex items-start whitespace-nowrap" style={{ columnGap: px(6) }}>
        <div className="-my-1 flex" style={{ height: px(number.size) + 8 }}>
          {number.text === '' ? (
            <span
              className="self-center leading-none text-soft"
              style={{ fontSize: px(number.size) }}
            >
              —
            </span>
          ) : estimate ? (
            <OpenNumber number={estimate} className="no-underline">
              {value}
            </OpenNumber>
          ) : (
            <OpenWorking
              visitId={visitId}
              of={number.key}
              label={number.label}
              className="no-underline"
            >
              {value}
            </OpenWorking>
          )}
          {number.is_beside && (
            <span
              className="ml-1 self-end pb-1 text-soft"
              style={{ fontSize: px(number.size * 0.42) }}
            >
              {number.unit}
            </span>
          )}
        </div>
        <div className="text-soft" style={small}>
          {number.is_beside ? (
            number.words.map((line) => (
              <span key={line} className="block">
                {line}
              </span>
            ))
          ) : (
            <span className="block" style={{ paddingTop: px(number.size * 0.86 - SMALL * 2) }}>
              {number.label}
              <span className="block">{number.unit}</span>
            </span>
          )}
        </div>
      </div>
      {!number.is_beside && <Against visitId={visitId} number={number} style={small} />}
    </div>
  )
}

type AgainstProps = { visitId: string; number: Props['number']; style: object }

/** Where it sits in its window; that opens too. */
function Against({ visitId, number, style }: AgainstProps) {
  const [first, ...rest] = number.words
  const lines = (
    <span className="block whitespace-nowrap" style={style}>
      <strong className="block">{first}</strong>
      {rest.map((line) => (
        <span key={line} className="block text-soft">
          {line}
        </span>
      ))}
    </span>
  )
  const opens = number.text !== '' && !number.is_estimate && /^[↑↓✓]/.test(first ?? '')
  if (!opens) return <div>{lines}</div>
  return (
    <div data-against>
      <OpenWorking
        visitId={visitId}
        of={`target_${number.key}`}
        label={`target ${number.key}`}
        className="items-start! no-underline"
      >
        {lines}
      </OpenWorking>
    </div>
  )
}
