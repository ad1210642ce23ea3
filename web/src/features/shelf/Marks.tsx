import { useState } from 'react'
import type { Cylinder, Units } from '../../api/types'
import { numberIn } from '../../lib/format'
import { newId } from '../../lib/ids'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'

const CONDITIONS = [
  ['clean', 'One refrigerant, clean'],
  ['mixed', 'Mixed, or not known'],
  ['burnt', 'From a burnt compressor: acid'],
] as const
type Condition = (typeof CONDITIONS)[number][0]

const FIELD = 'h-11 rounded border border-rule-strong bg-ground px-2'

/** What a recovery cylinder may take, as its collar says; it decides what is recovered into it. */
export function Marks({ cylinder, units }: { cylinder: Cylinder; units: Units }) {
  const [condition, setCondition] = useState(cylinder.condition as Condition)
  const [burns, setBurns] = useState(cylinder.takes_flammable)
  const [rated, setRated] = useState(cylinder.rated === null ? '' : String(cylinder.rated))
  const [until, setUntil] = useState(cylinder.tested_until ?? '')
  const amount = numberIn(rated)
  return (
    <details className="mt-1" data-marks={cylinder.condition}>
      <summary className="flex min-h-11 cursor-pointer items-center leading-tight underline decoration-rule-strong underline-offset-4">
        {saidOf(cylinder)}
      </summary>
      <form
        aria-label={`What its collar says, ${cylinder.name}`}
        className="grid gap-2 py-1"
        onSubmit={(event) => {
          event.preventDefault()
          const body = {
            condition,
            takes_flammable: burns,
            rated: amount,
            tested_until: until === '' ? null : until,
          }
          const blanks = { cylinder_id: cylinder.id }
          post('/api/cylinders/{cylinder_id}/marks', body, { id: newId(), units, blanks })
        }}
      >
        <label className="grid gap-0.5">
          <span className="text-[0.92rem] text-soft">What is in it</span>
          <select
            className={FIELD}
            value={condition}
            onChange={(event) => setCondition(event.target.value as Condition)}
          >
            {CONDITIONS.map(([key, label]) => (
              <option key={key} value={key}>
                {label}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          aria-pressed={burns}
          onClick={() => setBurns(!burns)}
          className="min-h-11 rounded border border-rule-strong bg-sheet px-3 text-left aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-ground"
        >
          Marked for flammable refrigerant
        </button>
        <label className="grid gap-0.5">
          <span className="text-[0.92rem] text-soft">
            Service pressure on its collar ({cylinder.rated_unit})
          </span>
          <input
            inputMode="decimal"
            className={FIELD}
            value={rated}
            onChange={(event) => setRated(event.target.value)}
          />
        </label>
        <label className="grid gap-0.5">
          <span className="text-[0.92rem] text-soft">Tested until</span>
          <input
            type="date"
            className={FIELD}
            value={until}
            onChange={(event) => setUntil(event.target.value)}
          />
        </label>
        <Button type="submit">Keep it</Button>
      </form>
    </details>
  )
}

function saidOf(cylinder: Cylinder): string {
  const rated =
    cylinder.rated === null ? 'rating not written down' : `${cylinder.rated} ${cylinder.rated_unit}`
  const tested = cylinder.tested_until === null ? '' : `, tested until ${cylinder.tested_until}`
  const burns = cylinder.takes_flammable ? ', for flammable too' : ', not for flammable'
  const what = cylinder.condition === 'clean' ? 'Clean' : `Marked ${cylinder.condition}`
  return `${what}, ${rated}${tested}${burns}`
}
