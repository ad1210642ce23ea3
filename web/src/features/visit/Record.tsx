import { useState } from 'react'
import type { Reading, Units, Visit } from '../../api/types'
import { formatNumber, shortTime } from '../../lib/format'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'

type Props = { visit: Visit; units: Units; now: Date }

/** Every reading with where it came from and when. Correcting writes a new row beside the old. */
export function Record({ visit, units, now }: Props) {
  const [history, setHistory] = useState(false)
  const kept = visit.readings.filter((one) => one.state !== 'live')
  const current = kept.filter((one) => one.state === 'current')
  const listed = history ? kept : current
  const earlier = kept.length - current.length
  const live = visit.readings.length - kept.length
  return (
    <section aria-label="Readings">
      <Heading aside={`${current.length + live} in use`}>Readings</Heading>
      {live > 0 && (
        <p className="py-2">
          {live} come live from instruments. They go into the record when you keep them.
        </p>
      )}
      {visit.readings.length === 0 && <p className="py-2 text-soft">None yet.</p>}
      <ul>
        {listed.map((reading) => (
          <Row key={reading.id} reading={reading} visit={visit} units={units} now={now} />
        ))}
      </ul>
      {earlier > 0 && (
        <Button weight="quiet" className="-ml-4" onClick={() => setHistory(!history)}>
          {history ? 'Show those in use' : `Show ${earlier} replaced or earlier`}
        </Button>
      )}
    </section>
  )
}

type RowProps = { reading: Reading; visit: Visit; units: Units; now: Date }

function Row({ reading, visit, units, now }: RowProps) {
  const [editing, setEditing] = useState(false)
  const shown = `${formatNumber(reading.value, reading.decimals)} ${reading.unit}`
  const live = reading.state === 'current' && visit.state !== 'closed'
  const estimated = reading.state === 'current' ? visit.estimated[reading.point] : undefined
  return (
    <li
      data-point={reading.point}
      data-state={reading.state}
      className="group flex min-h-11 flex-wrap items-center gap-x-3 border-b border-rule"
    >
      <span className="min-w-0 flex-1 leading-tight group-data-[state=void]:line-through">
        {reading.label}
        <span className="block text-[0.83rem] text-soft">
          {reading.source} {reading.given}
          {reading.written_by !== '' && ` on ${reading.written_by}`},{' '}
          {shortTime(reading.taken_at, now)}
          {reading.corrects !== null && ', corrected'}
          {reading.state === 'void' && ', replaced'}
          {reading.state === 'earlier' && ', earlier'}
          {estimated !== undefined && ` · without gauges: ${estimated}`}
        </span>
      </span>
      {live && editing ? (
        <Correction
          reading={reading}
          visit={visit}
          units={units}
          onDone={() => setEditing(false)}
        />
      ) : (
        <button
          type="button"
          disabled={!live}
          onClick={() => setEditing(true)}
          aria-label={`Correct ${reading.label}, ${shown}`}
          className="min-h-11 px-1 text-right text-[1.1rem] font-bold decoration-rule-strong underline-offset-4 enabled:underline"
        >
          {shown}
        </button>
      )}
    </li>
  )
}

type CorrectionProps = { reading: Reading; visit: Visit; units: Units; onDone: () => void }

function Correction({ reading, visit, units, onDone }: CorrectionProps) {
  const [text, setText] = useState(formatNumber(reading.value, reading.decimals).replace('−', '-'))
  const correct = () => {
    writeOn(visit.id, 'corrections', { reading_id: reading.id, text }, units)
    onDone()
  }
  const takeOut = () => {
    writeOn(visit.id, 'withdrawals', { reading_id: reading.id }, units)
    onDone()
  }
  return (
    <form
      className="flex items-center gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault()
        correct()
      }}
    >
      <input
        autoFocus
        value={text}
        inputMode="decimal"
        aria-label={`${reading.label} should read`}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onDone()}
        className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 text-right text-[1.1rem]"
      />
      <Button type="submit" weight="do">
        Correct
      </Button>
      <Button onClick={takeOut}>Take out</Button>
    </form>
  )
}
