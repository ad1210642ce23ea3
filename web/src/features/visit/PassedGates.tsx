import { useState } from 'react'
import type { Assessment, Units, Visit } from '../../api/types'
import { writeOn } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Card } from '../../ui/Card'
import { ReasonForm } from './ReasonForm'

type Gate = Assessment['readiness'][number]
type Props = { visit: Visit; gates: Gate[] }

/** Gates passed on purpose, with the reason; and the way to pass those that still stand. */
export function PassedGates({ visit, gates }: Props) {
  const [asks, setAsks] = useState(false)
  const { units } = usePreferences()
  const passed = gates.filter((gate) => gate.passed)
  const standing = gates.filter((gate) => gate.may_pass)
  if (visit.state !== 'under_way') return <PassedList gates={passed} />
  return (
    <>
      <PassedList gates={passed} onBack={(gate) => pass(visit, units, gate.key, '')} />
      {standing.length > 0 && (
        <p>
          <button
            type="button"
            onClick={() => setAsks(true)}
            className="-my-2 min-h-11 text-soft underline decoration-rule-strong underline-offset-4"
          >
            Judge all the same, with a reason
          </button>
        </p>
      )}
      {asks && <PassCard {...{ visit, units }} gates={standing} onClose={() => setAsks(false)} />}
    </>
  )
}

const pass = (visit: Visit, units: Units, gate: string, reason: string) =>
  writeOn(visit.id, 'passed-gates', { gate, reason }, units)

function PassedList({ gates, onBack }: { gates: Gate[]; onBack?: (gate: Gate) => void }) {
  return gates.map((gate) => (
    <p key={gate.key} data-passed={gate.key} className="text-[0.94rem] leading-snug">
      <strong>Passed.</strong> {gate.message}{' '}
      {onBack && (
        <button
          type="button"
          onClick={() => onBack(gate)}
          className="-my-2 min-h-11 underline decoration-rule-strong underline-offset-4"
        >
          Take that back
        </button>
      )}
    </p>
  ))
}

type CardProps = { visit: Visit; units: Units; gates: Gate[]; onClose: () => void }

/** One reason for everything that stands in the way now. */
function PassCard({ visit, units, gates, onClose }: CardProps) {
  return (
    <Card open onClose={onClose} title="Judge all the same">
      <ul className="list-disc pl-5">
        {gates.map((gate) => (
          <li key={gate.key}>{gate.message}</li>
        ))}
      </ul>
      <p className="mt-2">
        You will see what the numbers look like. Past a gate they never say to add or remove
        refrigerant.
      </p>
      <ReasonForm
        ask="Why it has to be judged like this"
        instead="Put it right first"
        onReason={(reason) => gates.forEach((gate) => pass(visit, units, gate.key, reason))}
        onClose={onClose}
      />
    </Card>
  )
}
