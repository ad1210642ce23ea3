import { Suspense } from 'react'
import { Link } from 'react-router'
import type { Standing, Units, Visit } from '../../api/types'
import { inMinutes, minutesSince, shortTime } from '../../lib/format'
import { changeVisit } from '../../state/outbox'
import { useTypedField } from '../../state/typedField'
import { Button } from '../../ui/Button'
import { later } from '../../lib/later'
import type { MenuRow } from '../../ui/Menu'
import { RunClock } from './RunClock'

const Menu = later(async () => (await import('../../ui/Menu')).Menu)

type Props = { visit: Standing; units: Units; now: Date; rows: MenuRow[] }

/** Which visit this is, how long the system has run, and behind ⋮ what is seldom needed. */
export function VisitBar({ visit, units, now, rows }: Props) {
  const { system } = visit
  const closed = visit.state === 'closed'
  return (
    <header className="flex min-h-11 items-center gap-x-3 border-b border-rule">
      <Link
        to="/"
        aria-label="Today"
        className="grid h-11 w-8 place-items-center text-[1.4rem] sm:hidden"
      >
        ‹
      </Link>
      <h1 className="min-w-0 shrink truncate text-[1.1rem]" dir="auto">
        <Link to={`/systems/${system.id}`} title={`${system.summary}. ${system.note}`}>
          <span className="max-sm:hidden">{system.site_name}, </span>
          {system.name}
        </Link>
      </h1>
      <span
        className={`min-w-0 shrink truncate text-[0.9rem] text-soft max-lg:hidden ${visit.running_since === null ? 'lg:hidden' : ''}`}
      >
        {system.summary}
      </span>
      {system.safety_class !== 'A1' && (
        <strong
          data-flammable={system.safety_class}
          className="shrink-0 border-l-4 border-alarm pl-1.5 text-[0.9rem]"
        >
          <span className="max-sm:hidden">flammable </span>
          {system.safety_class}
        </strong>
      )}
      {closed ? (
        <span className="min-w-0 flex-1 truncate text-soft">
          {visit.complaint !== '' && <>“{visit.complaint}” · </>}
          {visit.closed_at && <>closed {shortTime(visit.closed_at, now)}</>}
        </span>
      ) : (
        <Complaint visit={visit} units={units} />
      )}
      {!closed && visit.stopped_because !== '' && (
        <p className="min-w-0 truncate text-[0.95rem]" data-stopped>
          <strong>Stopped.</strong> {visit.stopped_because}
        </p>
      )}
      {!closed && visit.circuit_is_open && (
        <p className="ml-auto shrink-0 text-[0.95rem]" data-circuit-open>
          <strong>Circuit open.</strong> <span className="max-sm:hidden">Locked out.</span>
        </p>
      )}
      {!closed && !visit.circuit_is_open && visit.running_since === null && (
        <div className="min-w-0 max-lg:hidden">
          <RunClock visit={visit} units={units} now={now} />
        </div>
      )}
      {!closed && visit.running_since !== null && (
        <p className="ml-auto shrink-0 text-[0.95rem]" data-running>
          <span className="max-sm:hidden">Running </span>
          <strong>{inMinutes(minutesSince(visit.running_since, now))}</strong>
          {visit.changed_at !== null && (
            <span className="max-lg:hidden">
              , changed <strong>{inMinutes(minutesSince(visit.changed_at, now))}</strong> ago
            </span>
          )}
        </p>
      )}
      {closed &&
        rows
          .filter((row) => row.label === 'Papers and links' || row.label === 'Open again')
          .map((row) => (
            <Button key={row.label} tight className="shrink-0 max-sm:hidden" onClick={row.run}>
              {row.label}
            </Button>
          ))}
      <Suspense fallback={<span className="w-11" />}>
        <Menu label="More of this visit" rows={rows}>
          <span aria-hidden>⋮</span>
        </Menu>
      </Suspense>
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
      dir="auto"
      value={typed.text}
      onChange={(event) => typed.type(event.target.value)}
      onBlur={typed.settle}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur()
      }}
      className="h-11 w-full min-w-32 border-b border-dashed border-transparent bg-transparent text-soft placeholder:text-soft focus:border-rule-strong max-sm:hidden lg:flex-1"
    />
  )
}
