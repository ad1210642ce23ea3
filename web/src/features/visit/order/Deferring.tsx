import { useState } from 'react'
import type { Order, Units, Visit } from '../../../api/types'
import { OpenItems } from '../../../parts/OpenItems'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'

type Props = { visit: Visit; units: Units; order: Order }

/** What is left for another day or season. It stands on Today when its time comes. */
export function Deferring({ visit, units, order }: Props) {
  const [text, setText] = useState('')
  const [season, setSeason] = useState('any')
  const isOpen = visit.state !== 'closed'
  return (
    <div>
      <p className="text-soft">Left for later</p>
      <OpenItems items={order.deferred} units={units} />
      {isOpen && (
        <form
          aria-label="Leave something for later"
          className="flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (text.trim() === '') return
            writeOn(visit.id, 'deferred', { text, season }, units)
            setText('')
          }}
        >
          <input
            aria-label="What is left for later"
            placeholder="Judge the charge"
            maxLength={500}
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-11 min-w-0 flex-1 basis-40 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
          />
          <select
            aria-label="When it can be done"
            value={season}
            onChange={(event) => setSeason(event.target.value)}
            className="h-11 rounded border border-rule-strong bg-ground px-2"
          >
            {order.seasons.map((one) => (
              <option key={one.key} value={one.key}>
                {one.label}
              </option>
            ))}
          </select>
          <Button type="submit" disabled={text.trim() === ''}>
            Leave it
          </Button>
        </form>
      )}
    </div>
  )
}
