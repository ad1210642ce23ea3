import { memo, useState } from 'react'
import type { Blank, Slip, SlipLine, SlipShape, Units } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { placeInWords } from '../../lib/place'
import { copyText } from '../../lib/clipboard'
import type { Entry } from '../../state/pocket'
import { turnSlip } from '../../state/pocket'
import { BracketScale } from '../../ui/BracketScale'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { OpenNumber } from '../../ui/Opened'
import { BlankField } from './BlankField'
import { SaturationRule } from './SaturationRule'
import { SendSlip } from './SendSlip'
import type { Filled } from './useFilled'

type Props = {
  shape: SlipShape
  blanks: Map<string, Blank>
  entries: Record<string, Entry>
  filled: Filled
  units: Units
  fluid: string
}

/** One slip: what it comes to on top, what it was worked out from below. */
export const SlipCard = memo(OneSlip, isUnchanged)

/** A slip is drawn again only when something on it changed: typing stays quick with all out. */
function isUnchanged(before: Props, now: Props): boolean {
  const { shape } = now
  return (
    before.units === now.units &&
    before.blanks === now.blanks &&
    before.fluid === now.fluid &&
    before.filled.slips[shape.key] === now.filled.slips[shape.key] &&
    shape.blanks.every(
      (key) =>
        before.entries[key] === now.entries[key] &&
        before.filled.taken[key] === now.filled.taken[key] &&
        before.filled.problems[key] === now.filled.problems[key],
    )
  )
}

function OneSlip({ shape, blanks, entries, filled, units, fluid }: Props) {
  const slip = filled.slips[shape.key]
  const [sending, setSending] = useState(false)
  const [more, setMore] = useState(false)
  const isShown = (key: string) => more || !shape.seldom.includes(key) || entries[key] !== undefined
  const hidden = shape.seldom.filter((key) => entries[key] === undefined).length
  return (
    <section
      aria-label={shape.title}
      data-slip={shape.key}
      className="mb-4 rounded-sm border-2 border-ink bg-sheet"
    >
      <header className="flex items-center gap-1 border-b border-rule pl-3">
        <h2 className="min-w-0 flex-1 truncate text-[1.05rem]">{shape.title}</h2>
        {slip !== undefined && slip.lines.length > 0 && (
          <span className="flex print:hidden">
            <CopyButton text={slip.text} title={shape.title} />
            <Button
              weight="quiet"
              tight
              className="text-[0.9rem]"
              aria-label={`Send ${shape.title} into a visit`}
              onClick={() => setSending(true)}
            >
              Send
            </Button>
          </span>
        )}
        <Button
          weight="quiet"
          tight
          className="text-[0.9rem] no-underline print:hidden"
          aria-label={`Put ${shape.title} back`}
          onClick={() => turnSlip(shape.key)}
        >
          ✕
        </Button>
      </header>
      <div className="flex flex-col gap-3 p-3">
        <Figures slip={slip} />
        {shape.key === 'saturation' && <SaturationRule fluid={fluid} slip={slip} />}
        <div className="grid grid-cols-2 gap-2">
          {shape.blanks.filter(isShown).map((key) => {
            const blank = blanks.get(key)
            if (blank === undefined) return null
            return (
              <BlankField
                key={key}
                id={`${shape.key}-${key}`}
                blank={blank}
                entry={entries[key]}
                taken={filled.taken[key]}
                problem={filled.problems[key]}
                units={units}
              />
            )
          })}
        </div>
        {hidden > 0 && (
          <Button
            weight="quiet"
            tight
            className="-my-2 justify-start text-[0.92rem] print:hidden"
            aria-expanded={more}
            onClick={() => setMore(!more)}
          >
            {more ? 'Fewer blanks' : hidden === 1 ? '1 more blank' : `${hidden} more blanks`}
          </Button>
        )}
        <Rest slip={slip} />
        {shape.caution !== null && <Care word="Care:">{shape.caution}</Care>}
      </div>
      {sending && (
        <SendSlip
          shape={shape}
          entries={entries}
          taken={filled.taken}
          units={units}
          onClose={() => setSending(false)}
        />
      )}
    </section>
  )
}

/** The one or two numbers that matter, in sight while typing below them. */
function Figures({ slip }: { slip: Slip | undefined }) {
  if (slip === undefined) return null
  const [first, second] = figures(slip)
  return (
    <div aria-live="polite">
      {slip.problem !== null && (
        <p role="alert" className="border-l-4 border-alarm pl-2 leading-snug">
          {slip.problem}
        </p>
      )}
      {first !== undefined && (
        <div className={second ? 'grid grid-cols-2 gap-3' : ''}>
          <Figure line={first} />
          {second && <Figure line={second} />}
        </div>
      )}
      {first === undefined && slip.needs.length > 0 && (
        <p className="leading-snug text-soft">Fill in {slip.needs.join('; ')}.</p>
      )}
    </div>
  )
}

function figures({ lines }: Slip): SlipLine[] {
  const [first, second] = lines
  if (first === undefined) return []
  return second?.number.unit === first.number.unit ? [first, second] : [first]
}

/** Everything else a slip comes to, and what would tell more. */
function Rest({ slip }: { slip: Slip | undefined }) {
  if (slip === undefined) return null
  const rest = slip.lines.slice(figures(slip).length)
  return (
    <div className="flex flex-col gap-2">
      {slip.words.map((words) => (
        <p key={words} className="leading-snug">
          {words}
        </p>
      ))}
      {rest.length > 0 && (
        <dl>
          {rest.map((line) => (
            <Row key={line.number.key} line={line} />
          ))}
        </dl>
      )}
      {slip.needs.length > 0 && slip.lines.length > 0 && (
        <p className="text-[0.94rem] leading-snug text-soft">For more: {slip.needs.join('; ')}.</p>
      )}
    </div>
  )
}

/** A number at arm's length, against its window where it has one. */
function Figure({ line }: { line: SlipLine }) {
  const { number, low, high, place } = line
  return (
    <div data-line={number.key} className="min-w-0">
      <p className="truncate text-[0.9rem] text-soft">{number.label}</p>
      <p className="text-[1.5rem] leading-tight font-bold whitespace-nowrap sm:text-[1.9rem]">
        <OpenNumber number={number}>{number.text}</OpenNumber>
      </p>
      {low !== null && high !== null && place !== null && (
        <>
          <BracketScale value={number.value} low={low} high={high} describedAs={placeWords(line)} />
          <p className="text-[0.88rem] leading-tight">
            <strong className="block">{placeWords(line)}</strong>
            <span className="text-soft">
              {formatNumber(low, number.decimals)} to {formatNumber(high, number.decimals)}
              {line.source !== '' && `, ${line.source}`}
            </span>
          </p>
        </>
      )}
      {place === null && number.uncertainty_text !== null && (
        <p className="text-[0.88rem] text-soft">{number.uncertainty_text}</p>
      )}
    </div>
  )
}

function Row({ line }: { line: SlipLine }) {
  const { number } = line
  return (
    <div
      data-line={number.key}
      className="flex items-center justify-between gap-3 border-b border-rule"
    >
      <dt className="min-w-0 text-[0.94rem] leading-tight">
        {number.label}
        {line.place !== null && (
          <span className="block text-[0.85rem] text-soft">
            {placeWords(line)}
            {line.source !== '' && ` (${line.source})`}
          </span>
        )}
      </dt>
      <dd className="shrink-0 text-right">
        <OpenNumber number={number} className="font-bold">
          {number.text}
        </OpenNumber>
      </dd>
    </div>
  )
}

function placeWords({ number, low, high }: SlipLine): string {
  if (low === null || high === null) return ''
  return placeInWords(number.value, { low, high }, number.unit, number.decimals, 'inside')
}

function CopyButton({ text, title }: { text: string; title: string }) {
  const [copied, setCopied] = useState(false)
  return (
    <Button
      weight="quiet"
      tight
      className="text-[0.9rem]"
      aria-label={`Copy ${title} as text`}
      onClick={() =>
        void copyText(text).then((done) => {
          setCopied(done)
          setTimeout(() => setCopied(false), 1500)
        })
      }
    >
      {copied ? 'Copied' : 'Copy'}
    </Button>
  )
}
