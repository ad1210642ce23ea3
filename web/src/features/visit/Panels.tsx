import type { Advice, Standing, Units, Vocabulary } from '../../api/types'
import { Panel } from '../../ui/Panel'
import { BurstPad } from './dose/BurstPad'
import { ChangeOfMind } from './ChangeOfMind'
import { DoneCard } from './DoneCard'
import { ImportCard } from './ImportCard'
import { Instruments } from './Instruments'
import { Links } from './order/Links'
import { Papers } from './order/Papers'
import { WalkCard } from './WalkCard'
import { WaysCard } from './WaysCard'
import { WorkCard } from './WorkCard'

export type PanelName =
  'dose' | 'walk' | 'changes' | 'done' | 'instruments' | 'import' | 'papers' | 'ways' | 'work'

type Props = {
  visit: Standing
  vocabulary: Vocabulary
  units: Units
  nudge: Advice | null
  panel: PanelName | null
  probe: string
  onPanel: (panel: PanelName | null) => void
}

/** What is being done, one thing at a time, beside the stage. */
export function Panels({ visit, vocabulary, units, nudge, panel, probe, onPanel }: Props) {
  const onClose = () => onPanel(null)
  if (panel === 'dose') {
    const removes = nudge?.action === 'remove'
    return <BurstPad {...{ visit, units, removes, onClose }} advice={nudge} />
  }
  if (panel === 'walk') return <WalkCard {...{ visit, vocabulary, units, onClose }} />
  if (panel === 'changes') return <ChangeOfMind {...{ visit, onClose }} />
  if (panel === 'done')
    return <DoneCard {...{ visit, vocabulary, units, onClose }} advice={nudge} />
  if (panel === 'ways') return <WaysCard {...{ visit, units, onClose }} />
  if (panel === 'work') return <WorkCard {...{ visit, vocabulary, units, onClose }} />
  if (panel === 'import') return <ImportCard {...{ visit, vocabulary, onClose }} />
  if (panel === 'instruments') {
    return (
      <Instruments
        {...{ visit, units, vocabulary, onClose }}
        first={probe}
        onImport={() => onPanel('import')}
      />
    )
  }
  if (panel === 'papers') {
    return (
      <Panel open onClose={onClose} title="Papers and links">
        <Papers visit={visit} units={units} />
        <Links visit={visit} order={visit.order} />
      </Panel>
    )
  }
  return null
}
