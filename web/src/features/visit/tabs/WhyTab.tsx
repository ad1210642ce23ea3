import type { Standing, Units, Vocabulary } from '../../../api/types'
import { HeatBalance } from '../HeatBalance'
import { RoomRungs } from '../RoomRungs'
import { VehicleTests } from '../VehicleTests'
import { ZoneWhy } from '../zones/ZoneWhy'
import { Suspects } from '../Suspects'
import { Besides, Reasons } from '../Reasons'

type Props = {
  visit: Standing
  vocabulary: Vocabulary
  units: Units
  onForm: (form: string) => void
  onChanges: () => void
}

/** Why the verdict is what it is, what it is not, and who is suspected. */
export function WhyTab({ visit, vocabulary, units, onForm, onChanges }: Props) {
  if (visit.look) {
    return (
      <section aria-label="Look without gauges">
        <p className="text-[0.92rem] text-soft">Without gauges, from air and lines alone</p>
        <ul className="mt-1 flex flex-col gap-1">
          {visit.look.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
        {visit.look.missing.length > 0 && (
          <p className="mt-1">
            <strong>Read also:</strong> {visit.look.missing.join(', ').toLowerCase()}.
          </p>
        )}
      </section>
    )
  }
  if (!visit.assessment) {
    return (
      <p className="text-soft">
        Nothing is judged yet. Type a pressure and a line temperature: the two saturations,
        superheat and subcooling come at once, and the verdict with the air outdoors.
      </p>
    )
  }
  return (
    <>
      {visit.heat && <HeatBalance heat={visit.heat} />}
      {visit.room && <RoomRungs room={visit.room} />}
      {visit.vehicle && <VehicleTests of={visit.vehicle} />}
      {visit.zones && <ZoneWhy visit={visit} />}
      <Reasons visit={visit} assessment={visit.assessment} onForm={onForm} onChanges={onChanges} />
      <Suspects {...{ visit, vocabulary, units }} />
      <Besides assessment={visit.assessment} />
    </>
  )
}
