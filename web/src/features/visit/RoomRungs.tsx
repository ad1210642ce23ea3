import type { Room } from '../../api/types'
import { BesideTable } from '../../ui/BesideTable'
import { OpenNumber } from '../../ui/Opened'

/** A cold room: every rung as measured, beside what its set point and classes ask for. */
export function RoomRungs({ room }: { room: Room }) {
  return (
    <section aria-label="Cold room" className="mb-4">
      <BesideTable first={room.kind} last="by design">
        {room.rows.map((row) => (
          <tr key={row.key} data-rung={row.key} className="border-b border-rule">
            <th scope="row" className="min-h-11 py-2 pr-2 font-bold">
              {row.label}
            </th>
            <td className="text-right text-[1.1rem] font-bold whitespace-nowrap tabular-nums">
              {row.now || <span className="text-soft">–</span>}
            </td>
            <td className="pl-3 text-right whitespace-nowrap tabular-nums">
              {row.opened ? (
                <OpenNumber number={row.opened}>{row.expected}</OpenNumber>
              ) : (
                row.expected || <span className="text-soft">–</span>
              )}
            </td>
          </tr>
        ))}
      </BesideTable>
      {room.is_guessed && (
        <p className="mt-1 text-[0.92rem] text-soft">
          By the usual class: write the coil’s and the condenser’s own in the plate.
        </p>
      )}
      {room.falls !== '' && <p className="mt-2 border-l-4 border-rule-strong pl-2">{room.falls}</p>}
    </section>
  )
}
