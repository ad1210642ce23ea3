import { useState } from 'react'
import type { Order, Units, Visit } from '../../../api/types'
import { lowered } from '../../../lib/format'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { Deferring } from './Deferring'
import { Links } from './Links'
import { Papers } from './Papers'

type Props = { visit: Visit; units: Units; order: Order; onClosed: () => void }

/** Proving and closing: what is left, the baseline, the papers, and what must not stay open. */
export function Closing({ visit, units, order, onClosed }: Props) {
  const [reason, setReason] = useState('')
  const isOpen = visit.state !== 'closed'
  const mayClose = order.dangers.length === 0 || reason.trim() !== ''
  return (
    <div className="mt-2 space-y-4">
      <Deferring visit={visit} units={units} order={order} />
      <Intended visit={visit} units={units} order={order} />
      <Baseline visit={visit} units={units} order={order} />
      <Papers visit={visit} units={units} />
      {isOpen && <Links visit={visit} order={order} />}
      {isOpen && (
        <form
          aria-label="Close the visit"
          onSubmit={(event) => {
            event.preventDefault()
            if (!mayClose) return
            writeOn(visit.id, 'closings', { reason }, units)
            onClosed()
          }}
        >
          {order.dangers.map((danger) => (
            <Care key={danger} word="Still open:">
              {danger}
            </Care>
          ))}
          {order.dangers.length > 0 && (
            <input
              aria-label="Why it is closed with that open"
              placeholder="Do it, or say why it is left: it is printed"
              maxLength={300}
              value={reason}
              onChange={(event) => setReason(event.target.value)}
              className="mt-2 h-11 w-full rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
            />
          )}
          <Button type="submit" weight="do" className="mt-2 w-full" disabled={!mayClose}>
            {order.dangers.length > 0 ? 'Close it all the same' : 'Close the visit'}
          </Button>
        </form>
      )}
    </div>
  )
}

type PartProps = Omit<Props, 'onClosed'>

/** The settled result kept as what later visits are compared with. */
function Baseline({ visit, units, order }: PartProps) {
  if (order.baseline_here) {
    return <p className="font-bold">✓ This visit is the system’s baseline.</p>
  }
  return (
    <div>
      {order.drift && (
        <p className="leading-snug" data-drift={order.drift.is_flagged}>
          <strong>Against the baseline:</strong> {order.drift.said}
        </p>
      )}
      {visit.state !== 'closed' && (
        <Button
          disabled={order.no_baseline !== ''}
          onClick={() => writeOn(visit.id, 'baselines', {}, units)}
        >
          Keep this as the baseline
        </Button>
      )}
      {visit.state !== 'closed' && order.no_baseline !== '' && (
        <p className="text-[0.92rem] text-soft">No baseline yet: {lowered(order.no_baseline)}</p>
      )}
    </div>
  )
}

/** Something altered on purpose: later visits respect it. */
function Intended({ visit, units, order }: PartProps) {
  const [key, setKey] = useState('')
  const [note, setNote] = useState('')
  if (visit.state === 'closed') return null
  return (
    <form
      aria-label="Changed on purpose"
      className="flex flex-wrap gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (key === '') return
        writeOn(visit.id, 'intended-changes', { key, note }, units)
        setKey('')
        setNote('')
      }}
    >
      <select
        aria-label="What was changed on purpose"
        value={key}
        onChange={(event) => setKey(event.target.value)}
        className="h-11 rounded border border-rule-strong bg-ground px-2"
      >
        <option value="">Changed on purpose: nothing</option>
        {order.intended_kinds.map((one) => (
          <option key={one.key} value={one.key}>
            {one.label}
          </option>
        ))}
      </select>
      {key !== '' && (
        <>
          <input
            aria-label="Why it was changed"
            placeholder="Why"
            maxLength={500}
            value={note}
            onChange={(event) => setNote(event.target.value)}
            className="h-11 min-w-0 flex-1 basis-36 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
          />
          <Button type="submit">Record it</Button>
        </>
      )}
    </form>
  )
}
