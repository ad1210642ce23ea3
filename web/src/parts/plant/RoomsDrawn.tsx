import type { ReactNode } from 'react'
import type { ZoneParts } from '../../api/types'
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
      <ol>
        {parts.rooms.map((room) => (
          <li key={room.key} className="border-b border-rule py-2">
            <div className="flex items-center gap-3">
              <span className="w-10 shrink-0 font-bold">{room.key}</span>
              <input
                aria-label={`Name of ${room.key}`}
                value={room.name}
                onChange={(event) => change(room.key, { name: event.target.value })}
                className="h-11 w-full min-w-20 rounded border border-rule-strong bg-ground px-2"
              />
            </div>
            <div className="mt-1 flex flex-wrap gap-x-2 gap-y-1">
              {cells(room, (part) => change(room.key, part)).map(([head, cell]) => (
                <span key={head} className="flex flex-col text-[0.92rem] text-soft">
                  <span aria-hidden>{head}</span>
                  {cell}
                </span>
              ))}
            </div>
          </li>
        ))}
      </ol>
    </fieldset>
  )
}

function cells(room: Room, change: (part: Partial<Room>) => void): [string, ReactNode][] {
  return [
    [
      'Storey',
      <Cell
        key="storey"
        label={`Storey of ${room.key}`}
        value={room.storey ?? 0}
        onChange={(storey) => change({ storey: Math.round(storey ?? 0) })}
      />,
    ],
    [
      'kW',
      <Cell
        key="kw"
        label={`Capacity of ${room.key}, kW`}
        value={room.capacity_w == null ? null : room.capacity_w / 1000}
        onChange={(kw) => change({ capacity_w: kw === null ? null : kw * 1000 })}
      />,
    ],
    [
      'Pipe, m',
      <Cell
        key="pipe"
        label={`Pipe to ${room.key}, m`}
        value={room.length_m ?? null}
        onChange={(length_m) => change({ length_m })}
      />,
    ],
    [
      'Height, m',
      <Cell
        key="height"
        label={`Height of ${room.key} over the plant, m`}
        value={room.lift_m ?? 0}
        onChange={(lift) => change({ lift_m: lift ?? 0 })}
      />,
    ],
  ]
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
