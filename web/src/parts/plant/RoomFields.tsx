import { useState } from 'react'
import { Cell, useDrawingUnits } from './Cell'
import type { DrawingUnit } from '../../api/types'
import { Labelled } from './Labelled'
import type { Room } from './drawn'

type Props = {
  room: Room
  taken: string[]
  onChange: (part: Partial<Room>) => void
  onTakeAway: (() => void) | undefined
}

/** What opens under a storey is seen, not below the edge of its panel. */
const intoView = (fields: HTMLElement | null) => fields?.scrollIntoView({ block: 'nearest' })

type Field = {
  head: string
  of: string
  value: number | null
  unit?: DrawingUnit | undefined
  part: (value: number | null) => Partial<Room>
}

/** One room of a drawing, put right: what it is called, its size, its way, its storey. */
export function RoomFields({ room, taken, onChange, onTakeAway }: Props) {
  const [twice, setTwice] = useState('')
  const storey = room.storey ?? 0
  const { length, size } = useDrawingUnits()
  const numbers: Field[] = [
    {
      head: 'Size',
      of: 'Size of',
      value: room.capacity_w ?? null,
      unit: size,
      part: (capacity_w) => ({ capacity_w }),
    },
    {
      head: 'Pipe',
      of: 'Pipe to',
      value: room.length_m ?? null,
      unit: length,
      part: (length_m) => ({ length_m }),
    },
    {
      head: 'Over the plant',
      of: 'Height over the plant of',
      value: room.lift_m ?? 0,
      unit: length,
      part: (lift) => ({ lift_m: lift ?? 0 }),
    },
    {
      head: 'Ports',
      of: 'Ports of',
      value: room.ports ?? 1,
      part: (n) => ({ ports: Math.round(n ?? 1) }),
    },
    {
      head: 'Valve, steps',
      of: 'Steps of the valve of',
      value: room.wide_steps ?? null,
      part: (wide_steps) => (wide_steps === null ? {} : { wide_steps }),
    },
  ]
  const rename = (key: string) => {
    const isTaken = taken.includes(key) || key === ''
    setTwice(isTaken ? `“${key}” is another room’s number, or none.` : '')
    if (!isTaken && key !== room.key) onChange({ key })
  }
  return (
    <div
      className="my-1 border-l-4 border-accent py-1 pl-2"
      data-room-drawn={room.key}
      ref={intoView}
    >
      <div className="flex flex-wrap items-end gap-x-2 gap-y-1">
        <Labelled head="Number in its log">
          <input
            aria-label={`Number of ${room.key}`}
            defaultValue={room.key}
            onBlur={(event) => rename(event.target.value.trim())}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return
              event.preventDefault() // said first, kept with the rest
              event.currentTarget.blur()
            }}
            className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 text-ink"
          />
        </Labelled>
        <span className="flex min-w-36 grow flex-col text-[0.92rem] text-soft">
          <span aria-hidden>Name</span>
          <input
            aria-label={`Name of ${room.key}`}
            value={room.name}
            onChange={(event) => onChange({ name: event.target.value })}
            className="h-11 rounded border border-rule-strong bg-ground px-2 text-ink"
          />
        </span>
      </div>
      {twice && <p role="alert">{twice}</p>}
      <div className="mt-1 flex flex-wrap gap-x-2 gap-y-1">
        {numbers.map(({ head, of, value, unit, part }) => (
          <Labelled key={head} head={unit ? `${head}, ${unit.unit}` : head}>
            <Cell
              label={`${of} ${room.key}`}
              value={value}
              unit={unit}
              onChange={(next) => onChange(part(next))}
            />
          </Labelled>
        ))}
        <Labelled head="Branch box">
          <input
            aria-label={`Branch box of ${room.key}`}
            defaultValue={room.group ?? ''}
            onChange={(event) => onChange({ group: event.target.value.trim() })}
            className="h-11 w-20 rounded border border-rule-strong bg-ground px-2 text-ink"
          />
        </Labelled>
      </div>
      <div className="mt-1 flex flex-wrap gap-2">
        <Move label="▲ a storey up" onMove={() => onChange({ storey: storey + 1 })} />
        <Move label="▼ a storey down" onMove={() => onChange({ storey: storey - 1 })} />
        {onTakeAway && <Move label="Take it away" onMove={onTakeAway} />}
      </div>
    </div>
  )
}

function Move({ label, onMove }: { label: string; onMove: () => void }) {
  return (
    <button
      type="button"
      onClick={onMove}
      className="min-h-11 rounded border border-rule-strong px-3"
    >
      {label}
    </button>
  )
}
