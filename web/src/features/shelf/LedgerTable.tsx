import { Link } from 'react-router'
import type { Cylinder, Movement } from '../../api/types'
import { formatNumber } from '../../lib/format'

type Props = { movements: Movement[]; cylinders: Cylinder[] }

const SHOWN = 40

/** What moved, newest first. The file has all of it, corrected entries too. */
export function LedgerTable({ movements, cylinders }: Props) {
  if (movements.length === 0) return <p className="py-3">Nothing has moved yet.</p>
  const owner = new Map<string, string>()
  for (const one of cylinders) {
    for (const moved of one.movements) {
      if (moved.to_cylinder_id !== one.id) owner.set(moved.id, one.name)
    }
  }
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[0.96rem]">
        <thead>
          <tr className="border-b border-rule-strong text-left text-soft">
            <th className="py-1.5 pr-3 font-normal">When</th>
            <th className="py-1.5 pr-3 font-normal">What</th>
            <th className="py-1.5 pr-3 text-right font-normal">Amount</th>
            <th className="py-1.5 font-normal">Cylinder</th>
          </tr>
        </thead>
        <tbody>
          {movements.slice(0, SHOWN).map((one) => (
            <tr key={one.id} data-movement={one.kind} className="border-b border-rule">
              <td className="py-1.5 pr-3 whitespace-nowrap">
                {new Date(one.happened_at).toLocaleDateString()}
              </td>
              <td className="py-1.5 pr-3">
                {one.visit_id === null ? (
                  one.label
                ) : (
                  <Link
                    to={`/visits/${one.visit_id}`}
                    className="underline decoration-rule-strong underline-offset-4"
                  >
                    {one.label}
                  </Link>
                )}
              </td>
              <td className="py-1.5 pr-3 text-right whitespace-nowrap tabular-nums">
                {one.change > 0 ? '+' : '−'}
                {formatNumber(Math.abs(one.change), 1)} {one.unit}
              </td>
              <td className="py-1.5">{owner.get(one.id) ?? ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {movements.length > SHOWN && (
        <p className="py-2 text-soft">And {movements.length - SHOWN} older, in the file.</p>
      )}
    </div>
  )
}
