import { Link } from 'react-router'
import type { Units, Visit } from '../../api/types'
import { shortTime } from '../../lib/format'
import { changeVisit } from '../../state/outbox'
import { useTypedField } from '../../state/typedField'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { RunClock } from './RunClock'

type HeadProps = {
  visit: Visit
  units: Units
  now: Date
  onDone: () => void
  onWays: () => void
  onFinish: () => void
}

export function Head({ visit, units, now, onDone, onWays, onFinish }: HeadProps) {
  const { system } = visit
  const closed = visit.state === 'closed'
  return (
    <header className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 border-b border-rule pb-2 lg:flex-nowrap">
      <div className="min-w-0 lg:flex-1">
        <div className="items-center gap-4 lg:flex">
          <h1 className="text-[1.25rem] lg:shrink-0">
            {system.site_name}, {system.name}
          </h1>
          {!closed && <Complaint visit={visit} units={units} />}
        </div>
        <p className="text-[0.95rem] text-soft lg:truncate" title={system.note}>
          <Link
            to={`/systems/${system.id}`}
            className="underline decoration-rule-strong underline-offset-4"
          >
            {system.summary}
          </Link>
          {closed && visit.complaint !== '' && <> · “{visit.complaint}”</>}
          {system.note !== '' && <> · {system.note}</>}
          {closed && visit.closed_at && <> · closed {shortTime(visit.closed_at, now)}</>}
        </p>
        {system.safety_class !== 'A1' && (
          <Care word={`Care: ${system.refrigerant} is flammable (${system.safety_class}).`}>
            Ventilate, no ignition source, rated tools, maker’s limits.
          </Care>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-2 lg:shrink-0">
        {!closed && <RunClock visit={visit} units={units} now={now} onDone={onDone} />}
        {!closed && (
          <Button className="px-2 sm:px-3" keyHint="y" onClick={onWays}>
            Ways in
          </Button>
        )}
        <Button onClick={onFinish}>{closed ? 'Open again' : 'Close visit'}</Button>
      </div>
    </header>
  )
}

/** What the customer said, kept as it is typed. */
function Complaint({ visit, units }: { visit: Visit; units: Units }) {
  const typed = useTypedField({
    draft: `complaint:${visit.id}`,
    stored: visit.complaint,
    about: (message) => message.path === `/visits/${visit.id}` && 'complaint' in message.body,
    read: (text) => text,
    send: (complaint) => changeVisit(visit.id, { complaint }, units),
  })
  return (
    <input
      aria-label="Complaint"
      placeholder="Complaint, in the customer’s words"
      autoComplete="off"
      maxLength={2000}
      value={typed.text}
      onChange={(event) => typed.type(event.target.value)}
      onBlur={typed.settle}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur()
      }}
      className="h-11 w-full min-w-0 border-b border-dashed border-rule-strong bg-transparent placeholder:text-soft lg:flex-1"
    />
  )
}
