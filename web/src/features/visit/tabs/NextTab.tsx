import type { Advice, Standing, Units, Vocabulary } from '../../../api/types'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { CircuitCard } from '../circuit/CircuitCard'
import { NextChecks } from '../NextChecks'
import { NudgeCard } from '../NudgeCard'
import type { PanelName } from '../Panels'
import { Seen } from '../Seen'

type Props = {
  visit: Standing
  vocabulary: Vocabulary
  units: Units
  nudge: Advice | null
  onForm: (form: string) => void
  onPanel: (panel: PanelName) => void
  onTest: (key: string) => void
}

/** What to do next: the dose and its wait, or the check that would settle most. */
export function NextTab({ visit, vocabulary, units, nudge, onForm, onPanel, onTest }: Props) {
  return (
    <>
      {visit.circuit && (
        <CircuitCard {...{ visit, units, onForm, onTest, onPanel }} circuit={visit.circuit} />
      )}
      {opensIt(visit) && (
        <p className="mb-3 border-l-4 border-ink pl-2 leading-snug" data-opens>
          The circuit has to be opened for that.{' '}
          <Button tight onClick={() => writeOn(visit.id, 'kinds', { kind: 'repair' }, units)}>
            Make this a repair
          </Button>
        </p>
      )}
      {nudge && (
        <NudgeCard
          {...{ visit, units }}
          advice={nudge}
          onGive={() => onPanel('dose')}
          onWays={() => onPanel('ways')}
        />
      )}
      {visit.look?.decision !== 'leave_caps_on' && !visit.circuit_is_open && (
        <NextChecks
          {...{ visit, vocabulary, units }}
          onWalk={() => onPanel('walk')}
          onForm={onForm}
        />
      )}
      <Seen visit={visit} vocabulary={vocabulary} units={units} />
    </>
  )
}

/** What the verdict asks for opens the circuit, and this kind of call does not. */
function opensIt(visit: Standing): boolean {
  const decision = visit.assessment?.decision
  if (!decision || visit.state === 'closed' || visit.circuit) return false
  return decision.key === 'valve_shut' || decision.advice === 'find_leak'
}
