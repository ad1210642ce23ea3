import type { Advice, Standing, Units, Vocabulary } from '../../../api/types'
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
