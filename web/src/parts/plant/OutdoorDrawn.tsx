import { useState } from 'react'
import type { ZoneParts } from '../../api/types'
import { Cell, useDrawingUnits } from './Cell'
import { Labelled } from './Labelled'
import { isOnTop, liftedByStoreys, sizeShown, storeysOf } from './drawn'

type Props = {
  parts: ZoneParts
  isTouched: boolean
  onTouch: () => void
  onChange: (parts: ZoneParts) => void
}

const STOREY_M = 3.3

/** The outdoor unit: touched, its size, and where it stands; the rooms’ heights follow from that. */
export function OutdoorDrawn({ parts, isTouched, onTouch, onChange }: Props) {
  const storeys = storeysOf(parts)
  const beyond = isOnTop(parts) ? (storeys[0] ?? 0) + 1 : (storeys.at(-1) ?? 0) - 1
  const [stands, setStands] = useState<number | null>(beyond)
  const [high, setHigh] = useState<number | null>(STOREY_M)
  const { length, size } = useDrawingUnits()
  return (
    <div className="my-1">
      <button
        type="button"
        aria-expanded={isTouched}
        onClick={onTouch}
        className={`min-h-12 rounded border-2 px-3 text-left ${
          isTouched ? 'border-accent' : 'border-ink'
        }`}
      >
        <strong>Outdoor unit</strong>
        <span className="ml-2 text-soft tabular-nums">
          {parts.capacity_w == null ? 'size not written' : sizeShown(parts.capacity_w, size)}
        </span>
      </button>
      {isTouched && (
        <div className="flex flex-wrap items-end gap-x-3 gap-y-2 py-2">
          <Labelled head={`Size, ${size?.unit}`}>
            <Cell
              label="Outdoor unit"
              value={parts.capacity_w ?? null}
              unit={size}
              onChange={(capacity_w) => onChange({ ...parts, capacity_w })}
            />
          </Labelled>
          <Labelled head="Stands on storey">
            <Cell label="Storey the outdoor unit stands on" value={stands} onChange={setStands} />
          </Labelled>
          <Labelled head={`A storey is, ${length?.unit}`}>
            <Cell label="Height of a storey" value={high} unit={length} onChange={setHigh} />
          </Labelled>
          <button
            type="button"
            disabled={stands === null || high === null}
            onClick={() => onChange(liftedByStoreys(parts, stands ?? 0, high ?? STOREY_M))}
            className="min-h-11 rounded border border-rule-strong px-3 disabled:opacity-50"
          >
            Set all heights so
          </button>
          <label className="flex min-h-11 basis-full items-center gap-2">
            <input
              type="checkbox"
              checked={parts.recovers_heat ?? false}
              onChange={(event) => onChange({ ...parts, recovers_heat: event.target.checked })}
              className="size-5"
            />
            Some rooms can heat while others cool
          </label>
        </div>
      )}
    </div>
  )
}
