import { useWeighIn } from '../../api/queries'
import type { System, Vocabulary, WeighIn } from '../../api/types'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { OpenNumber } from '../../ui/Opened'
import { ChargeFields } from './PlateForm'

type Props = { system: System; vocabulary: Vocabulary }

/** How much refrigerant belongs in this system: the sum on top, what it is summed from below. */
export function WeighInSheet({ system, vocabulary }: Props) {
  const sheet = useWeighIn(system.id)
  return (
    <section aria-label="Weigh-in">
      <Heading aside="from an evacuated system">Weigh-in</Heading>
      <LoadState of={sheet}>{(ready) => <Sum sheet={ready} />}</LoadState>
      <ChargeFields system={system} vocabulary={vocabulary} />
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
