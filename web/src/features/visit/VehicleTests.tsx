import type { Vehicle } from '../../api/types'
import { BesideTable } from '../../ui/BesideTable'
import { OpenNumber } from '../../ui/Opened'

const SAID = { unread: 'not read', under: 'under', in: 'passes', over: 'over' } as const

/** A vehicle’s three tests, as measured and what passes; every number opens. */
export function VehicleTests({ of }: { of: Vehicle }) {
  return (
    <section aria-label="Three tests" className="mb-4">
      <BesideTable first="all three, or no verdict" last="passes at">
        {of.tests.map((row) => (
          <tr
            key={row.key}
            data-test={row.key}
            data-place={row.place}
            className="border-b border-rule"
          >
            <th scope="row" className="py-2 pr-2 font-bold">
              {row.label}
              <span className="block font-normal text-soft">
                {row.place === 'in' ? '✓ ' : ''}
                {SAID[row.place]}
              </span>
            </th>
            <td className="text-right text-[1.1rem] font-bold whitespace-nowrap tabular-nums">
              {row.opened ? (
                <OpenNumber number={row.opened}>{row.now}</OpenNumber>
              ) : (
                <span className="text-soft">–</span>
              )}
            </td>
            <td className="pl-3 text-right whitespace-nowrap tabular-nums">
              {row.least ? (
                <OpenNumber number={row.least}>{row.passes}</OpenNumber>
              ) : (
                row.passes || <span className="text-soft">wet bulb first</span>
              )}
            </td>
          </tr>
        ))}
      </BesideTable>
    </section>
  )
}
