import type { Standing, Units } from '../../api/types'
import { nextUnits, setPreference, toggleTheme } from '../../state/preferences'
import { openFind } from '../../state/find'
import type { Done } from '../../state/toasts'
import { undo } from '../../state/undo'
import type { MenuRow } from '../../ui/Menu'
import type { PanelName } from './Panels'
import { note } from './RunClock'
import { drawingsOf, type Drawing } from './stage/Stage'

type Asked = {
  visit: Standing
  units: Units
  isHand: boolean
  onPanel: (panel: PanelName) => void
  onDrawing: (drawing: Drawing) => void
  onClose: () => void
  sound: boolean
  /** What this device wrote last, to be taken back. */
  last: Done | undefined
}

/** What stands behind ⋮: work and stops, ways in, logs, papers; in the hand also the drawings. */
export function menuOf({
  visit,
  units,
  isHand,
  onPanel,
  onDrawing,
  onClose,
  sound,
  last,
}: Asked): MenuRow[] {
  const isOpen = visit.state !== 'closed'
  const runs = visit.running_since !== null
  const open: MenuRow[] = [
    { label: 'Work done', key: 'h', run: () => onPanel('done') },
    ...(runs
      ? [{ label: 'System stopped now', key: 'o', run: () => note(visit, 'system_stopped', units) }]
      : [
          {
            label: 'System started now',
            key: 'r',
            run: () => note(visit, 'system_started', units),
          },
        ]),
    ...(runs || visit.circuit_is_open
      ? []
      : [10, 20, 30].map((ago) => ({
          label: `System started ${ago} min ago`,
          run: () => note(visit, 'system_started', units, ago),
        }))),
    { label: 'Ways in', key: 'y', run: () => onPanel('ways') },
    { label: 'Instruments', key: 'i', run: () => onPanel('instruments') },
    { label: 'Tests with time', key: '=', run: () => onPanel('tests') },
    { label: 'Read a log file', key: 'f', run: () => onPanel('import') },
    ...(visit.is_simulated ? [{ label: 'Work on it', key: 'w', run: () => onPanel('work') }] : []),
    ...(last ? [{ label: `Undo: ${last.said}`, key: 'u', run: () => undo(last, units) }] : []),
  ]
  const hand: MenuRow[] = [
    ...drawingsOf(visit).map((name) => ({
      label: `Show the ${lower(name)}`,
      run: () => onDrawing(name),
    })),
    { label: 'Find', run: () => openFind() },
    { label: 'Units', run: nextUnits },
    { label: 'Light or night', run: toggleTheme },
  ]
  return [
    ...(isOpen ? open : []),
    { label: isOpen ? 'Close visit' : 'Open again', key: 'c', run: onClose },
    { label: 'Papers and links', run: () => onPanel('papers') },
    {
      label: sound ? 'No sound at the end of a wait' : 'Sound at the end of a wait',
      run: () => setPreference('sound', !sound),
    },
    ...(isHand ? hand : []),
  ]
}

const lower = (name: Drawing) => (name === 'Loop' ? name : name.toLowerCase())
