import type { Standing, Units, Vocabulary } from '../../../api/types'
import { Button } from '../../../ui/Button'
import { Heading } from '../../../ui/Heading'
import { ChartsToday } from '../ChartsToday'
import { KeptSlips } from '../KeptSlips'
import { Numbers } from '../Numbers'
import type { PanelName } from '../Panels'
import { Record } from '../Record'

type Props = {
  visit: Standing
  vocabulary: Vocabulary
  units: Units
  now: Date
  onPanel: (panel: PanelName) => void
}

/** Every reading and every number worked out of them, and where they come from. */
export function ReadingsTab({ visit, vocabulary, units, now, onPanel }: Props) {
  const isOpen = visit.state !== 'closed'
  return (
    <>
      <Record visit={visit} units={units} now={now} />
      <Numbers visit={visit} vocabulary={vocabulary} />
      {isOpen && visit.live === null && (
        <section aria-label="Instruments and logs">
          <Heading>Instruments and logs</Heading>
          <p className="py-2 text-soft">
            Nothing is sending. A device can send to this visit; a log can be read in.
          </p>
          <div className="flex flex-wrap gap-2">
            <Button className="px-3" keyHint="f" onClick={() => onPanel('import')}>
              Read a log file
            </Button>
          </div>
        </section>
      )}
      <KeptSlips slips={visit.slips} now={now} />
      <ChartsToday charts={visit.charts} />
    </>
  )
}
