import { useState } from 'react'
import { useCylinders } from '../../api/queries'
import type { Advice, Standing, Units, Visit } from '../../api/types'
import { clockTime, formatNumber, lowered, numberIn } from '../../lib/format'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { OpenNumber } from '../../ui/Opened'
import { WeighForm } from '../../parts/WeighForm'

type Props = {
  visit: Visit
  units: Units
  advice: Advice
  onGive: () => void
  onWays: () => void
}

/** The visit's decision as a card: where it moves refrigerant, or some has moved. */
export function nudgeOf(visit: Standing): Advice | null {
  const decision = visit.assessment?.decision
  const isWanted =
    visit.state === 'under_way' &&
    decision !== undefined &&
    (decision.dose !== null || decision.trim !== null || visit.doses.length > 0)
  return isWanted ? visit.nudge : null
}

/** How much, in how many bursts, how long to wait, what to expect, what would prove it wrong. */
export function NudgeCard({ visit, units, advice, onGive, onWays }: Props) {
  const moves = advice.action === 'add' || advice.action === 'remove'
  return (
    <section aria-label="Nudge" data-nudge={advice.action}>
      <Heading aside={advice.way}>Nudge</Heading>
      <div className="border-b border-l-8 border-b-rule border-l-ink bg-sheet px-3 py-2">
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
        {advice.watch.map((said) => (
          <p key={said} className="mt-1 leading-snug" data-watch>
            {said}
          </p>
        ))}
        <p className="mt-1 text-[0.94rem] leading-snug text-soft">{advice.reason}</p>
        <Trim advice={advice} units={units} />
        {moves && (
          <p className="mt-1 text-[0.94rem] leading-snug">
            <strong>Wrong if:</strong> {lowered(advice.would_prove_wrong)}
          </p>
        )}
        {advice.response !== '' && (
          <p className="mt-1 text-[0.94rem] leading-snug text-soft">{advice.response}</p>
        )}
        <div className="mt-2 flex flex-wrap gap-2">
          {!moves && (
            <Button keyHint="v" onClick={onGive}>
              Write a dose down
            </Button>
          )}
          <Button onClick={onWays}>Ways in</Button>
        </div>
        {advice.action === 'done' && <WeighBack visit={visit} units={units} />}
        <Given visit={visit} units={units} />
        {visit.recovered !== null && (
          <p className="mt-2 leading-snug" data-recovered={visit.recovered.short}>
            {visit.recovered.said}{' '}
            <OpenNumber number={visit.recovered.number}>
              {visit.recovered.number.text} {visit.recovered.number.uncertainty_text}
            </OpenNumber>
          </p>
        )}
      </div>
    </section>
  )
}

/** Every cylinder this visit used, to be weighed before it is put away. */
function WeighBack({ visit, units }: { visit: Visit; units: Units }) {
  const cylinders = useCylinders()
  if (cylinders.status !== 'ready') return null
  const used = cylinders.data.filter((one) => visit.cylinders_used.includes(one.id))
  if (used.length === 0) return null
  return (
    <div className="mt-2 border-t border-rule pt-2">
      <p className="font-bold">Weigh the cylinder back</p>
      {used.map((one) => (
        <div key={one.id} data-weigh-back={one.id}>
          <p className="text-[0.94rem] text-soft">{one.name}</p>
          <WeighForm cylinder={one} units={units} visitId={visit.id} />
        </div>
      ))}
    </div>
  )
}

/** What should be read after the wait, by quantity. */
function Expected({ advice, units }: { advice: Advice; units: Units }) {
  const unit = units === 'ip' ? '°F' : 'K'
  return (
    <>
      <p className="mt-1">Then expect</p>
      <dl className="flex flex-wrap items-baseline gap-x-4">
        {Object.entries(advice.expected).map(([key, range]) => (
          <div key={key} data-expected={key} className="flex items-baseline gap-1.5">
            <dt className="text-soft">{key}</dt>
            <dd className="font-bold tabular-nums">
              {formatNumber(range.low, 1)} to {formatNumber(range.high, 1)} {unit}
            </dd>
          </div>
        ))}
      </dl>
    </>
  )
}

/** Inside the window already: to its target is a choice, small, and nobody has to. */
function Trim({ advice, units }: { advice: Advice; units: Units }) {
  const trim = advice.trim
  if (trim === null) return null
  const unit = units === 'ip' ? '°F' : 'K'
  return (
    <p className="mt-1 text-[0.94rem] leading-snug" data-trim>
      Right as it is. If you choose to trim: {formatNumber(trim.amount, 1)} {trim.unit}, for{' '}
      {trim.watched} near {formatNumber(trim.middle, 1)} {unit}. Nothing asks for it.
    </p>
  )
}

/** What went in so far; a mistyped one is put right by an entry that stands in its place. */
function Given({ visit, units }: { visit: Visit; units: Units }) {
  const [mends, setMends] = useState<string | null>(null)
  const [text, setText] = useState('')
  if (visit.doses.length === 0) return null
  const amount = numberIn(text)
  const isAmount = amount !== null && amount >= 0
  return (
    <ul className="mt-2 border-t border-rule" aria-label="Doses so far">
      {visit.doses.map((dose) => (
        <li key={dose.id} data-dose={dose.id} className="flex flex-wrap items-center gap-2 py-1">
          <span className="font-bold tabular-nums">
            {dose.removes ? '−' : '+'}
            {formatNumber(dose.amount, 1)} {dose.unit}
          </span>
          <span className="text-soft">{clockTime(dose.happened_at)}</span>
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
