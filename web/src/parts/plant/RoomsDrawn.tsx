import { useState, type ReactNode } from 'react'
import type { ZoneParts } from '../../api/types'
import { useDrawingUnits } from './Cell'
import { OutdoorDrawn } from './OutdoorDrawn'
import { RoomFields } from './RoomFields'
import { isOnTop, roomAdded, sizeShown, storeysOf, type Room } from './drawn'

type Props = { parts: ZoneParts; onChange: (parts: ZoneParts) => void }

/** The plant drawn by touching: its storeys over each other, a room touched is put right under its
 *  storey, a + adds one.
 */
export function RoomsDrawn({ parts, onChange }: Props) {
  const [touched, setTouched] = useState('')
  const storeys = storeysOf(parts)
  const add = (storey: number) => {
    const drawn = roomAdded(parts, storey)
    onChange(drawn)
    setTouched(drawn.rooms.at(-1)?.key ?? '')
  }
  const change = (key: string, part: Partial<Room>) => {
    onChange({
      ...parts,
      rooms: parts.rooms.map((room) => (room.key === key ? { ...room, ...part } : room)),
    })
    if (part.key !== undefined) setTouched(part.key)
  }
  const plant = (
    <OutdoorDrawn
      parts={parts}
      isTouched={touched === OUTDOOR}
      onTouch={() => setTouched(touched === OUTDOOR ? '' : OUTDOOR)}
      onChange={onChange}
    />
  )
  const room = parts.rooms.find((one) => one.key === touched)
  return (
    <fieldset>
      <legend className="font-bold">The plant, storey by storey</legend>
      <p className="text-[0.92rem] text-soft">Touch a part to put it right, + to add a room.</p>
      {isOnTop(parts) && plant}
      <Beyond
        label={`+ storey ${(storeys[0] ?? 0) + 1}`}
        onAdd={() => add((storeys[0] ?? 0) + 1)}
      />
      <ol className="border-l-4 border-rule-strong" aria-label="Storeys">
        {storeys.map((storey) => (
          <li key={storey} className="border-b-2 border-rule py-1 pl-1" data-storey={storey}>
            <div className="flex items-stretch gap-1">
              <span className="w-7 shrink-0 self-center text-center text-soft tabular-nums">
                {storey}
              </span>
              <div className="flex grow flex-wrap gap-1">
                {parts.rooms
                  .filter((one) => (one.storey ?? 0) === storey)
                  .map((one) => (
                    <RoomBox
                      key={one.key}
                      room={one}
                      isTouched={one.key === touched}
                      onTouch={() => setTouched(one.key === touched ? '' : one.key)}
                    />
                  ))}
              </div>
              <button
                type="button"
                aria-label={`Add a room on storey ${storey}`}
                onClick={() => add(storey)}
                className="min-h-12 w-11 shrink-0 rounded border border-dashed border-rule-strong text-[1.2rem]"
              >
                +
              </button>
            </div>
            {room && (room.storey ?? 0) === storey && (
              <RoomFields
                key={room.key}
                room={room}
                taken={parts.rooms.filter((one) => one !== room).map((one) => one.key)}
                onChange={(part) => change(room.key, part)}
                onTakeAway={
                  parts.rooms.length < 2
                    ? undefined
                    : () => onChange({ ...parts, rooms: parts.rooms.filter((one) => one !== room) })
                }
              />
            )}
          </li>
        ))}
      </ol>
      <Beyond
        label={`+ storey ${(storeys.at(-1) ?? 0) - 1}`}
        onAdd={() => add((storeys.at(-1) ?? 0) - 1)}
      />
      {!isOnTop(parts) && plant}
    </fieldset>
  )
}

const OUTDOOR = 'outdoor'

function Beyond({ label, onAdd }: { label: string; onAdd: () => void }): ReactNode {
  return (
    <button
      type="button"
      onClick={onAdd}
      className="ml-8 min-h-11 px-3 text-[0.92rem] text-soft underline underline-offset-4"
    >
      {label}
    </button>
  )
}

type BoxProps = { room: Room; isTouched: boolean; onTouch: () => void }

/** A room on its storey, as wide as its share: number, name, size, the box it hangs on. */
function RoomBox({ room, isTouched, onTouch }: BoxProps) {
  const unit = useDrawingUnits().size
  const size = room.capacity_w == null ? '' : sizeShown(room.capacity_w, unit)
  return (
    <button
      type="button"
      aria-expanded={isTouched}
      aria-label={`${room.key}, ${room.name}${size && `, ${size}`}`}
      onClick={onTouch}
      style={{ flexGrow: Math.max(room.capacity_w ?? 2000, 500) }}
      className={`min-h-14 min-w-24 basis-0 rounded border-2 px-2 py-1 text-left text-[0.92rem] leading-tight ${
        isTouched ? 'border-accent' : 'border-rule-strong'
      }`}
    >
      <span className="flex justify-between gap-1">
        <strong className="text-[1rem]">{room.key}</strong>
        {room.group && <span className="text-soft">{room.group}</span>}
      </span>
      <span className="block w-0 min-w-full truncate">{room.name}</span>
      <span className="block whitespace-nowrap text-soft tabular-nums">{size}</span>
    </button>
  )
}
