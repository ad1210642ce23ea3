import type { components } from '../../api/schema'
import type { Units, Visit } from '../../api/types'
import { inMinutes, minutesSince } from '../../lib/format'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { serverNow } from '../../state/clock'

type Props = { visit: Visit; units: Units; now: Date }

const AGO = [0, 10, 20, 30]

/** How long the system has run and since when nothing was changed: what settling counts from. */
export function RunClock({ visit, units, now }: Props) {
  if (visit.zones) return null // its log says when it ran
  if (visit.running_since === null) {
    return (
      <div className="flex flex-wrap items-center gap-2">
        <span>System started:</span>
        {AGO.map((minutes) => (
          <Button
            key={minutes}
            className="px-3"
            onClick={() => note(visit, 'system_started', units, minutes)}
            {...(minutes === 0 ? { keyHint: 'r' } : {})}
          >
            {minutes === 0 ? 'now' : `${minutes} min ago`}
          </Button>
        ))}
      </div>
    )
  }
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 sm:gap-x-3">
      <span>
        Running <strong>{inMinutes(minutesSince(visit.running_since, now))}</strong>
      </span>
      {visit.changed_at !== null && (
        <span>
          changed <strong>{inMinutes(minutesSince(visit.changed_at, now))}</strong> ago
        </span>
      )}
    </div>
  )
}

export type Kind = components['schemas']['NewEvent']['kind']

export type Why = NonNullable<components['schemas']['NewEvent']['why']>

export function note(visit: Visit, kind: Kind, units: Units, minutesAgo = 0, why: Why = ''): void {
  const happened = new Date(serverNow() - minutesAgo * 60_000).toISOString()
  writeOn(visit.id, 'events', { kind, happened_at: happened, why }, units)
}
