import { useState } from 'react'
import type { Units, Visit, Vocabulary } from '../../api/types'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Card } from '../../ui/Card'
import { note, type Kind } from './RunClock'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units; onClose: () => void }

/** What was done to the system just now: readings settle after it and are compared across it. */
export function DoneCard({ visit, vocabulary, units, onClose }: Props) {
  const [amount, setAmount] = useState('')
  const value = Number(amount.trim().replace(',', '.'))
  const hasAmount = amount.trim() !== '' && value > 0
  return (
    <Card open onClose={onClose} title="What was done">
      <p className="mb-2">
        Settling counts from now, and what follows is laid beside what was before.
      </p>
      <ul className="flex flex-col">
        {vocabulary.actions.map((action) => (
          <li
            key={action.key}
            className="flex flex-wrap items-center gap-3 border-b border-rule py-2"
          >
            <Button
              disabled={action.takes_amount && !hasAmount}
              onClick={() => {
                if (action.takes_amount) {
                  const happened_at = new Date().toISOString()
                  writeOn(
                    visit.id,
                    'events',
                    { kind: action.key, happened_at, amount: value },
                    units,
                  )
                } else {
                  note(visit, action.key as Kind, units)
                }
                onClose()
              }}
            >
              {action.label}
            </Button>
            {action.key === 'refrigerant_added' && (
              <label className="flex items-center gap-2">
                <input
                  inputMode="decimal"
                  aria-label={`Amount, ${vocabulary.mass_unit}`}
                  value={amount}
                  onChange={(event) => setAmount(event.target.value)}
                  className="h-11 w-24 rounded border border-rule-strong bg-ground px-2"
                />
                {vocabulary.mass_unit}, by the scale
              </label>
            )}
          </li>
        ))}
      </ul>
    </Card>
  )
}
