import { Link } from 'react-router'
import type { Cylinder, Units, Visit } from '../../../api/types'
import { formatNumber } from '../../../lib/format'
import { WeighForm } from '../../../parts/WeighForm'

type CylindersProps = {
  all: Cylinder[]
  fits: Cylinder[]
  chosen: string | null
  onChoose: (id: string) => void
  visit: Visit
  units: Units
}

/** Which cylinder it comes from, or goes into: only those that may be used here. */
export function Cylinders({ all, fits, chosen, onChoose, visit, units }: CylindersProps) {
  const others = all.length - fits.length
  const picked = fits.find((one) => one.id === chosen)
  if (fits.length === 0) {
    return (
      <p className="mt-2 border-l-4 border-alarm pl-2">
        No cylinder of {visit.system.refrigerant} for this is on the{' '}
        <Link to="/shelf" className="underline underline-offset-4">
          Cylinders
        </Link>
        . Put it there first: refrigerant, tare and weight.
      </p>
    )
  }
  return (
    <fieldset className="mt-2">
      <legend className="text-soft">From which cylinder</legend>
      {fits.map((one) => (
        <label key={one.id} className="flex min-h-11 items-center gap-3">
          <input
            type="radio"
            name="cylinder"
            className="h-6 w-6"
            checked={one.id === chosen}
            onChange={() => onChoose(one.id)}
          />
          <span className="font-bold">{one.name}</span>
          <span>
            {one.refrigerant}, {formatNumber(one.holds, 2)} {one.unit} in it
          </span>
        </label>
      ))}
      {picked && !picked.weighings.some((one) => one.visit_id === visit.id) && (
        <details className="pl-9">
          <summary className="flex min-h-11 cursor-pointer items-center">
            Not weighed on this visit yet. Weigh it first
          </summary>
          <WeighForm cylinder={picked} units={units} visitId={visit.id} />
        </details>
      )}
      {others > 0 && (
        <p className="text-[0.9rem] text-soft">
          {others} more on the shelf hold another refrigerant, or are of another kind.
        </p>
      )}
    </fieldset>
  )
}
