import { Suspense } from 'react'
import type { Advice, Standing, Units, Vocabulary } from '../../api/types'
import { Panel } from '../../ui/Panel'
import { Links } from './order/Links'
import { Papers } from './order/Papers'

import { later } from '../../lib/later'

const BurstPad = later(async () => (await import('./dose/BurstPad')).BurstPad)
const ChangeOfMind = later(async () => (await import('./ChangeOfMind')).ChangeOfMind)
const DoneCard = later(async () => (await import('./DoneCard')).DoneCard)
const ZoneImport = later(async () => (await import('./zones/ZoneImport')).ZoneImport)
const ImportCard = later(async () => (await import('./ImportCard')).ImportCard)
const Instruments = later(async () => (await import('./Instruments')).Instruments)
const SettingsPanel = later(async () => (await import('./circuit/SettingsPanel')).SettingsPanel)
const TestsPanel = later(async () => (await import('./tests/TestsPanel')).TestsPanel)
const WalkCard = later(async () => (await import('./WalkCard')).WalkCard)
const WaysCard = later(async () => (await import('./WaysCard')).WaysCard)
const WorkCard = later(async () => (await import('./WorkCard')).WorkCard)

export type PanelName =
  | 'dose'
  | 'walk'
  | 'changes'
  | 'done'
  | 'instruments'
  | 'import'
  | 'papers'
  | 'recover'
  | 'settings'
  | 'tests'
  | 'ways'
  | 'work'

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
export function Panels(props: Props) {
  return (
    <Suspense fallback={null}>
      <Open {...props} />
    </Suspense>
  )
}

function Open({ visit, vocabulary, units, nudge, panel, probe, onPanel }: Props) {
  const onClose = () => onPanel(null)
  if (panel === 'dose') {
    const removes = nudge?.action === 'remove'
    return <BurstPad {...{ visit, units, removes, onClose }} advice={nudge} />
  }
  if (panel === 'recover') return <BurstPad {...{ visit, units, onClose }} removes advice={null} />
  if (panel === 'settings') return <SettingsPanel {...{ visit, units, onClose }} />
  if (panel === 'walk') return <WalkCard {...{ visit, vocabulary, units, onClose }} />
  if (panel === 'changes') return <ChangeOfMind {...{ visit, onClose }} />
  if (panel === 'done')
    return <DoneCard {...{ visit, vocabulary, units, onClose }} advice={nudge} />
  if (panel === 'ways') return <WaysCard {...{ visit, units, onClose }} />
  if (panel === 'tests') return <TestsPanel {...{ visit, units, onClose }} first={probe} />
  if (panel === 'work') return <WorkCard {...{ visit, vocabulary, units, onClose }} />
  if (panel === 'import' && visit.zones) return <ZoneImport {...{ visit, units, onClose }} />
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
