import { useState } from 'react'
import type { Advice, Units, Visit, Vocabulary } from '../../api/types'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { BurstPad } from './dose/BurstPad'
import { note, type Kind, type Why } from './RunClock'

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
      <p className="mt-3 font-bold">It does not run, because</p>
      <p className="text-[0.92rem] text-soft">Written down as what happened: it is no fault.</p>
      <div className="mt-1 flex flex-wrap gap-2">
        {vocabulary.stop_reasons.map((reason) => (
          <Button
            key={reason.key}
            className="px-3"
            onClick={() => {
              note(visit, 'system_stopped', units, 0, reason.key as Why)
              onClose()
            }}
          >
            {reason.label}
          </Button>
        ))}
      </div>
    </Panel>
  )
}
