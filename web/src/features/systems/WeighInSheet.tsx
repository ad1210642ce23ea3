import { useWeighIn } from '../../api/queries'
import type { System, Vocabulary, WeighIn } from '../../api/types'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { OpenNumber } from '../../ui/Opened'
import { PlantDrawn } from '../../parts/plant/PlantDrawn'
import { ChargeFields } from './PlateForm'

type Props = { system: System; vocabulary: Vocabulary }

/** How much refrigerant belongs in this system: the sum on top, what it is summed from below.
 *  A plant with many rooms is summed by the pipes of its drawing.
 */
export function WeighInSheet({ system, vocabulary }: Props) {
  const sheet = useWeighIn(system.id)
  return (
    <section aria-label="Weigh-in">
      <Heading aside="from an evacuated system">Weigh-in</Heading>
      <LoadState of={sheet}>
        {(ready) => (
          <>
            <Sum sheet={ready} />
            {ready.is_by_pipes && <PlantDrawn systemId={system.id} />}
            <ChargeFields system={system} vocabulary={vocabulary} hasLineSet={!ready.is_by_pipes} />
          </>
        )}
      </LoadState>
    </section>
  )
}

const ROWS = ['total_charge', 'line_charge', 'line_allowance']

function Sum({ sheet }: { sheet: WeighIn }) {
  return (
    <div className="pt-2">
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {ROWS.map((key) => {
          const number = sheet.numbers[key]
          if (number === undefined) return null
          return (
            <div key={key} data-sum={key}>
              <dt className="text-[0.9rem] text-soft">{number.label}</dt>
              <dd
                data-first={key === 'total_charge'}
                className="text-[1.2rem] font-bold data-[first=true]:text-[1.9rem] data-[first=true]:leading-tight"
              >
                <OpenNumber number={number}>{number.text}</OpenNumber>
              </dd>
            </div>
          )
        })}
      </dl>
      {sheet.pipes.length > 0 && (
        <ul className="text-[0.92rem] text-soft" aria-label="Size by size">
          {sheet.pipes.map((pipe) => (
            <li key={pipe.today}>
              <OpenNumber number={pipe}>{pipe.today}</OpenNumber>
            </li>
          ))}
        </ul>
      )}
      {sheet.numbers['total_charge'] === undefined && (
        <p className="leading-snug text-soft">
          For the total, give {sheet.missing.join('; ').toLowerCase()}.
        </p>
      )}
      {sheet.numbers['line_charge'] !== undefined &&
        sheet.notes.map((note) => (
          <p key={note} className="text-[0.92rem] leading-snug">
            {note}
          </p>
        ))}
    </div>
  )
}
