import { useState } from 'react'
import type { Advice, Units, Visit, Vocabulary } from '../../api/types'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { BurstPad } from './dose/BurstPad'
import { note, type Kind } from './RunClock'

type Props = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  advice: Advice | null
  onClose: () => void
}

/** What was done to the system just now: readings settle after it and are compared across it. */
export function DoneCard({ visit, vocabulary, units, advice, onClose }: Props) {
  const [moved, setMoved] = useState<string | null>(null)
  if (moved !== null) {
    const removes = moved === 'refrigerant_removed'
    const fits = (advice?.action === 'remove') === removes
    return <BurstPad {...{ visit, units, removes, onClose }} advice={fits ? advice : null} />
  }
  return (
    <Panel open onClose={onClose} title="What was done">
      <p className="mb-2">
        Settling counts from now, and what follows is laid beside what was before.
      </p>
      <ul className="flex flex-col">
        {vocabulary.actions.map((action) => (
          <li key={action.key} className="border-b border-rule py-2">
            <Button
              onClick={() => {
                if (action.takes_amount) {
                  setMoved(action.key)
                  return
                }
                note(visit, action.key as Kind, units)
                onClose()
              }}
            >
              {action.label}
            </Button>
            {action.takes_amount && <span className="ml-3 text-soft">by the scale</span>}
          </li>
        ))}
      </ul>
    </Panel>
  )
}
