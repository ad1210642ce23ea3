import type { ZoneParts } from '../../api/types'
import { Cell, useDrawingUnits } from './Cell'

type Pipe = NonNullable<ZoneParts['pipes']>[number]
type Props = { parts: ZoneParts; onChange: (parts: ZoneParts) => void }

/** Outside sizes of refrigeration tube, in mm, as they are called. */
const SIZES: [number, string][] = [
  [6.35, '1/4'],
  [7.9375, '5/16'],
  [9.525, '3/8'],
  [12.7, '1/2'],
  [15.875, '5/8'],
  [19.05, '3/4'],
  [22.225, '7/8'],
  [28.575, '1 1/8'],
]

/** The plate’s charge and the liquid pipes by size: what the plant’s charge is summed up from. */
export function PipesDrawn({ parts, onChange }: Props) {
  const pipes = parts.pipes ?? []
  const { length, per_length } = useDrawingUnits()
  const change = (size: number, part: Partial<Pipe> | null) => {
    const kept = pipes.filter((pipe) => pipe.outside_mm !== size)
    const before = pipes.find((pipe) => pipe.outside_mm === size)
    const next =
      part === null ? kept : [...kept, { outside_mm: size, length_m: 0, ...before, ...part }]
    onChange({ ...parts, pipes: next.sort((a, b) => b.outside_mm - a.outside_mm) })
  }
  return (
    <fieldset>
      <legend className="font-bold">Its liquid pipes, each size together</legend>
      <p className="text-[0.92rem] text-soft">
        Mains, branches and the rooms’ own. With the plate’s charge they say what is weighed in
        after a recovery.
      </p>
      <table className="mt-2 text-left">
        <thead>
          <tr className="border-b border-rule-strong text-[0.92rem] text-soft">
            {[
              'Outside, in.',
              `Length, ${length?.unit}`,
              `Maker’s ${per_length?.unit}, if written`,
            ].map((head) => (
              <th key={head} scope="col" className="py-1 pr-4 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {SIZES.map(([size, name]) => {
            const pipe = pipes.find((one) => Math.abs(one.outside_mm - size) < 0.3)
            return (
              <tr key={size} className="border-b border-rule">
                <th scope="row" className="py-1 pr-4 font-normal">
                  {name}
                </th>
                <td className="py-1 pr-4">
                  <Cell
                    label={`Length of ${name} in. liquid pipe`}
                    unit={length}
                    value={pipe?.length_m ?? null}
                    onChange={(length_m) =>
                      change(pipe?.outside_mm ?? size, length_m === null ? null : { length_m })
                    }
                  />
                </td>
                <td className="py-1">
                  {pipe && (
                    <Cell
                      label={`Maker’s charge of ${name} in. liquid pipe`}
                      unit={per_length}
                      value={pipe.g_per_m ?? null}
                      onChange={(g_per_m) => change(pipe.outside_mm, { g_per_m })}
                    />
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </fieldset>
  )
}
