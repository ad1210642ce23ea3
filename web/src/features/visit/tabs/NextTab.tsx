import type { Advice, Standing, Units, Vocabulary } from '../../../api/types'
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
}

/** What to do next: the dose and its wait, or the check that would settle most. */
export function NextTab({ visit, vocabulary, units, nudge, onForm, onPanel }: Props) {
  return (
    <>
      {nudge && (
        <NudgeCard
          {...{ visit, units }}
          advice={nudge}
          onGive={() => onPanel('dose')}
          onWays={() => onPanel('ways')}
        />
      )}
      {visit.look?.decision !== 'leave_caps_on' && (
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
