import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { useNudge } from '../../api/queries'
import type { Advice, Units, Visit } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { useKeys } from '../../state/keys'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { BurstPad } from './BurstPad'

type Props = { visit: Visit; units: Units; advice: Advice }

export const CONNECTION = 'hose_manifold'

/** The nudge for a visit: only once charge is what to act on, or refrigerant has moved. */
export function useVisitNudge(visit: Visit, connection: string): Advice | null {
  const charge = visit.assessment?.charge.advice
  const isWanted =
    visit.state === 'under_way' &&
    (charge === 'add' || charge === 'remove' || visit.doses.length > 0)
  const found = useNudge(visit, connection, isWanted)
  return isWanted ? found : null
}

/** How much, in how many bursts, how long to wait, what to expect, what would prove it wrong. */
export function NudgeCard({ visit, units, advice }: Props) {
  const [gives, setGives] = useState(false)
  const moves = advice.action === 'add' || advice.action === 'remove'
  useKeys([{ key: 'v', label: 'Give the nudge, or write a dose down', run: () => setGives(true) }])
  return (
    <section aria-label="Nudge" data-nudge={advice.action}>
      <Heading aside={advice.way}>Nudge</Heading>
      <div className="border-b border-l-8 border-b-rule border-l-accent bg-sheet px-3 py-2">
        <p className="text-[1.7rem] leading-tight font-bold" role="status">
          {advice.headline}
        </p>
        {moves && (
          <>
            <p className="mt-1 leading-snug">
              {advice.bursts > 1
                ? `In ${advice.bursts} short bursts, shut between. `
                : 'In one short burst. '}
              Then wait {formatNumber(advice.wait_minutes, 0)} min.
            </p>
            <Expected advice={advice} units={units} />
          </>
        )}
        {advice.action === 'wait' && <Countdown minutes={advice.wait_minutes} />}
        <p className="mt-1 text-[0.94rem] leading-snug text-soft">{advice.reason}</p>
        {moves && (
          <p className="mt-1 text-[0.94rem] leading-snug">
            <strong>Wrong if:</strong> {lowered(advice.would_prove_wrong)}
          </p>
        )}
        <div className="mt-2 flex flex-wrap gap-2">
          <Button weight={moves ? 'do' : 'plain'} keyHint="v" onClick={() => setGives(true)}>
            {advice.action === 'remove' ? 'Take it out' : moves ? 'Give it' : 'Write a dose down'}
          </Button>
          {advice.action === 'done' && (
            <Link
              to="/shelf"
              className="inline-flex min-h-11 items-center rounded border border-rule-strong bg-ground px-4"
            >
              Weigh the cylinder back
            </Link>
          )}
        </div>
        <Given visit={visit} units={units} />
      </div>
      {gives && (
        <BurstPad visit={visit} units={units} advice={advice} onClose={() => setGives(false)} />
      )}
    </section>
  )
}

const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)

/** What should be read after the wait, by quantity. */
function Expected({ advice, units }: { advice: Advice; units: Units }) {
  const unit = units === 'ip' ? '°F' : 'K'
  return (
    <dl className="mt-1 flex flex-wrap items-baseline gap-x-4">
      <div className="basis-full">Then expect</div>
      {Object.entries(advice.expected).map(([key, range]) => (
        <div key={key} data-expected={key} className="flex items-baseline gap-1.5">
          <dt className="text-soft">{key}</dt>
          <dd className="font-bold tabular-nums">
            {formatNumber(range.low, 1)} to {formatNumber(range.high, 1)} {unit}
          </dd>
        </div>
      ))}
    </dl>
  )
}

/** Counts down from what the advice said when it came. */
function Countdown({ minutes }: { minutes: number }) {
  const [left, setLeft] = useState(minutes * 60)
  useEffect(() => {
    const began = Date.now()
    const tick = setInterval(() => {
      setLeft(Math.max(minutes * 60 - (Date.now() - began) / 1000, 0))
    }, 1_000)
    return () => clearInterval(tick)
  }, [minutes])
  const whole = Math.ceil(left)
  return (
    <p className="text-[2.2rem] leading-tight font-bold tabular-nums" data-countdown>
      {Math.floor(whole / 60)}:{String(whole % 60).padStart(2, '0')}
    </p>
  )
}

/** What went in so far; a mistyped one is put right by an entry that stands in its place. */
function Given({ visit, units }: { visit: Visit; units: Units }) {
  const [mends, setMends] = useState<string | null>(null)
  const [text, setText] = useState('')
  if (visit.doses.length === 0) return null
  const amount = Number(text.trim().replace(',', '.'))
  const isAmount = text.trim() !== '' && amount >= 0
  return (
    <ul className="mt-2 border-t border-rule" aria-label="Doses so far">
      {visit.doses.map((dose) => (
        <li key={dose.id} data-dose={dose.id} className="flex flex-wrap items-center gap-2 py-1">
          <span className="font-bold tabular-nums">
            {dose.removes ? '−' : '+'}
            {formatNumber(dose.amount, 1)} {dose.unit}
          </span>
          <span className="text-soft">
            {new Date(dose.happened_at).toLocaleTimeString([], {
              hour: '2-digit',
              minute: '2-digit',
            })}
          </span>
          {mends === dose.id ? (
            <form
              className="flex gap-2"
              onSubmit={(event) => {
                event.preventDefault()
                if (!isAmount) return
                writeOn(visit.id, 'dose-corrections', { dose_id: dose.id, amount }, units)
                setMends(null)
              }}
            >
              <input
                autoFocus
                inputMode="decimal"
                aria-label={`What it really was, ${dose.unit}`}
                value={text}
                onChange={(event) => setText(event.target.value)}
                className="h-11 w-20 rounded border border-rule-strong bg-ground px-2"
              />
              <Button type="submit" disabled={!isAmount}>
                Put right
              </Button>
            </form>
          ) : (
            <Button
              weight="quiet"
              className="ml-auto"
              onClick={() => {
                setText(String(dose.amount))
                setMends(dose.id)
              }}
            >
              Mistyped
            </Button>
          )}
        </li>
      ))}
    </ul>
  )
}
