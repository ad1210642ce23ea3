import { Link } from 'react-router'
import { useState } from 'react'
import { useToday } from '../../api/queries'
import type { SlipShape, Units, VisitLine } from '../../api/types'
import { readEntry } from '../../lib/entryText'
import { writeOn } from '../../state/outbox'
import type { Entry } from '../../state/pocket'
import { Button } from '../../ui/Button'
import { Card } from '../../ui/Card'
import { LoadState } from '../../ui/LoadState'

type Props = {
  shape: SlipShape
  entries: Record<string, Entry>
  taken: Record<string, number>
  units: Units
  onClose: () => void
}

/** Send a slip, and the readings on it, into a visit that is under way. */
export function SendSlip({ shape, entries, taken, units, onClose }: Props) {
  const today = useToday()
  const [sentTo, setSentTo] = useState<VisitLine | null>(null)
  const send = (visit: VisitLine) => {
    const body = { slip: shape.key, entries: entriesIn(units), written_in: units }
    writeOn(visit.id, 'slips', body, units)
    setSentTo(visit)
  }
  const entriesIn = (wanted: Units) =>
    Object.fromEntries(
      shape.blanks.flatMap((key) => {
        const entry = entries[key]
        if (entry === undefined) return []
        const value = entry.units === wanted ? readEntry(entry.text) : (taken[key] ?? entry.text)
        return [[key, value]]
      }),
    )
  return (
    <Card open onClose={onClose} title={`Send: ${shape.title}`}>
      {sentTo !== null ? (
        <p>
          Sent.{' '}
          <Link className="underline underline-offset-4" to={`/visits/${sentTo.id}`}>
            Go to {sentTo.system.site_name}, {sentTo.system.name}
          </Link>
        </p>
      ) : (
        <LoadState of={today}>
          {({ under_way }) =>
            under_way.length === 0 ? (
              <p>No visit is under way. Start one from Systems, then send.</p>
            ) : (
              <>
                <p className="mb-3">
                  The readings on this slip are written into the visit, marked as typed here.
                </p>
                <ul className="flex flex-col gap-2">
                  {under_way.map((visit) => (
                    <li key={visit.id}>
                      <Button className="w-full justify-start" onClick={() => send(visit)}>
                        {visit.system.site_name}, {visit.system.name}
                      </Button>
                    </li>
                  ))}
                </ul>
              </>
            )
          }
        </LoadState>
      )}
    </Card>
  )
}
