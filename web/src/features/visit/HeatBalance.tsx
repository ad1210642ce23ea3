import type { Heat } from '../../api/types'
import { StripBars } from './StripBars'
import { BesideTable } from '../../ui/BesideTable'
import { OpenNumber } from '../../ui/Opened'

/** A visit in heating: heat, rise, power and COP beside what they should be; the lockouts. */
export function HeatBalance({ heat }: { heat: Heat }) {
  return (
    <section aria-label="Heat" className="mb-4">
      <BesideTable last="expected">
        {heat.rows.map((row) => (
          <tr key={row.label} data-heat-row={row.label} className="border-b border-rule">
            <th scope="row" className="pr-2 font-bold">
              {row.label}
              <span className="ml-1.5 font-normal text-soft">{unitOf(row)}</span>
            </th>
            <td className="text-right text-[1.1rem] font-bold whitespace-nowrap">
              <Value number={row.now} text={row.text} />
            </td>
            <td className="pl-3 text-right whitespace-nowrap">
              <Value number={row.expected} text="" />
            </td>
          </tr>
        ))}
      </BesideTable>
      {heat.is_guessed && (
        <p className="mt-1 text-[0.92rem] text-soft">
          Expected by its class: the plate’s rating points would narrow it.
        </p>
      )}
      {heat.strips && <StripBars of={heat.strips} />}
      {heat.balance_point !== '' && (
        <p className="mt-2">
          The pump alone holds the house down to <strong>{heat.balance_point}</strong>.
        </p>
      )}
      {[...heat.asides, ...heat.lockouts].map((said) => (
        <p key={said} className="mt-2 border-l-4 border-rule-strong pl-2">
          {said}
        </p>
      ))}
    </section>
  )
}

type Row = Heat['rows'][number]
type ValueProps = { number: Row['now']; text: string }

const unitOf = (row: Row) => (row.now ?? row.expected)?.unit ?? ''

/** A number that opens; as plain text where there is nothing to open, a stroke where none is. */
function Value({ number, text }: ValueProps) {
  if (number === null) {
    return (
      <span className={`inline-flex min-h-11 items-center ${text === '' ? 'text-soft' : ''}`}>
        {text || '–'}
      </span>
    )
  }
  return <OpenNumber number={number}>{number.text.replace(` ${number.unit}`, '')}</OpenNumber>
}
