import { useState } from 'react'
import { api } from '../../../api/client'
import type { Scale, Units, Visit } from '../../../api/types'
import { formatNumber } from '../../../lib/format'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Props = { visit: Visit; units: Units; scale: Scale; onZero: () => void; pours: boolean }

/** The live scale: what has gone since its zero, and, on a simulated system, the valve. */
export function ScaleRow({ visit, units, scale, onZero, pours }: Props) {
  return (
    <div data-scale className="mt-3 border-y border-rule py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <span className="text-soft">On the scale now</span>
        <span className="font-bold tabular-nums">
          {formatNumber(scale.gross, 2)} {scale.gross_unit}
        </span>
        <span className="ml-auto text-[1.7rem] leading-none font-bold tabular-nums" role="status">
          {formatNumber(scale.gone, 1)} {scale.unit}
        </span>
        <span className="text-soft">gone since zero</span>
      </div>
      {scale.doubt !== '' && <Care word="Look at the scale.">{scale.doubt}</Care>}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={onZero}>Zero it here</Button>
        {pours && visit.is_simulated && <Valve visit={visit} units={units} />}
      </div>
    </div>
  )
}

/** Open while it is held down, shut when it is let go: one burst. */
function Valve({ visit, units }: { visit: Visit; units: Units }) {
  const [open, setOpen] = useState(false)
  const turn = (is_open: boolean) => {
    if (is_open === open) return
    setOpen(is_open)
    void api
      .POST('/api/visits/{visit_id}/yard/valve', {
        params: { path: { visit_id: visit.id }, query: { units } },
        body: { is_open },
      })
      .catch(() => setOpen(false))
  }
  return (
    <button
      type="button"
      aria-pressed={open}
      onPointerDown={() => turn(true)}
      onPointerUp={() => turn(false)}
      onPointerLeave={() => turn(false)}
      onPointerCancel={() => turn(false)}
      onBlur={() => turn(false)}
      onKeyDown={(event) => {
        if (event.key !== ' ' || event.repeat) return
        event.preventDefault()
        turn(true)
      }}
      onKeyUp={(event) => event.key === ' ' && turn(false)}
      className="min-h-16 flex-1 touch-none rounded border-2 border-ink bg-sheet px-4 text-[1.1rem] font-bold select-none aria-pressed:bg-ink aria-pressed:text-ground"
    >
      {open ? 'Pouring. Let go to shut' : 'Hold to pour a burst'}
    </button>
  )
}
