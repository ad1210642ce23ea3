import type { ZoneParts } from '../../../api/types'
import { Cell } from './Cell'

type Room = ZoneParts['rooms'][number]
type Props = { parts: ZoneParts; onChange: (parts: ZoneParts) => void }

/** The plant’s rooms as they are drawn: name, storey, size, pipe; guessed from the headings. */
export function RoomsDrawn({ parts, onChange }: Props) {
  const change = (key: string, part: Partial<Room>) =>
    onChange({
      ...parts,
      rooms: parts.rooms.map((room) => (room.key === key ? { ...room, ...part } : room)),
    })
  return (
    <fieldset>
      <legend className="font-bold">Its rooms, as they are drawn</legend>
      <Num
        label="Outdoor unit, kW"
        value={parts.capacity_w == null ? null : parts.capacity_w / 1000}
        onChange={(kw) => onChange({ ...parts, capacity_w: kw === null ? null : kw * 1000 })}
      />
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="border-b border-rule-strong text-[0.92rem] text-soft">
            {['', 'Name', 'Storey', 'kW', 'Pipe, m', 'Over the plant, m'].map((head) => (
              <th key={head} scope="col" className="py-1 pr-2 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {parts.rooms.map((room) => (
            <tr key={room.key} className="border-b border-rule">
              <th scope="row" className="py-1 pr-2 text-left">
                {room.key}
              </th>
              <td className="py-1 pr-2">
                <input
                  aria-label={`Name of ${room.key}`}
                  value={room.name}
                  onChange={(event) => change(room.key, { name: event.target.value })}
                  className="h-11 w-full min-w-20 rounded border border-rule-strong bg-ground px-2"
                />
              </td>
              <td className="py-1 pr-2">
                <Cell
                  label={`Storey of ${room.key}`}
                  value={room.storey ?? 0}
                  onChange={(storey) => change(room.key, { storey: Math.round(storey ?? 0) })}
                />
              </td>
              <td className="py-1 pr-2">
                <Cell
                  label={`Capacity of ${room.key}, kW`}
                  value={room.capacity_w == null ? null : room.capacity_w / 1000}
                  onChange={(kw) =>
                    change(room.key, { capacity_w: kw === null ? null : kw * 1000 })
                  }
                />
              </td>
              <td className="py-1 pr-2">
                <Cell
                  label={`Pipe to ${room.key}, m`}
                  value={room.length_m ?? null}
                  onChange={(length_m) => change(room.key, { length_m })}
                />
              </td>
              <td className="py-1">
                <Cell
                  label={`Height of ${room.key} over the plant, m`}
                  value={room.lift_m ?? 0}
                  onChange={(lift) => change(room.key, { lift_m: lift ?? 0 })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </fieldset>
  )
}

type NumProps = { label: string; value: number | null; onChange: (value: number | null) => void }

function Num({ label, value, onChange }: NumProps) {
  return (
    <label className="mt-1 flex items-center gap-3">
      {label}
      <Cell label={label} value={value} onChange={onChange} />
    </label>
  )
}
