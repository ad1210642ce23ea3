import { useState } from 'react'
import type { Visit, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { placeInWords } from '../../lib/place'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { OpenWorking } from './OpenWorking'

type Props = { visit: Visit; vocabulary: Vocabulary }

const FIRST = ['temperature_split', 'condensing_over_ambient', 'approach', 'airflow_per_capacity',
  'capacity_total', 'eer'] // prettier-ignore

/** Every number worked out from the readings; each opens to how it came about. */
export function Numbers({ visit, vocabulary }: Props) {
  const [all, setAll] = useState(false)
  const { assessment } = visit
  if (assessment === null) return null
  const there = vocabulary.derived.filter((row) => assessment.derived[row.key] != null)
  const first = there.filter((row) => FIRST.includes(row.key))
  const listed = all ? there : first
  if (there.length === 0) return null
  return (
    <section aria-label="Numbers">
      <Heading aside="tap one to see how">Numbers</Heading>
      <dl>
        {listed.map((row) => {
          const value = assessment.derived[row.key] ?? 0
          const target = assessment.targets[row.key]
          const label = visit.called[row.key] ?? row.label
          return (
            <div
              key={row.key}
              data-derived={row.key}
              className="flex min-h-11 items-center justify-between gap-3 border-b border-rule"
            >
              <dt className="min-w-0 leading-tight">
                {label}
                {target && (
                  <span className="block text-[0.83rem] text-soft">
                    {placeInWords(value, target, row.unit, 1, 'in the window')},{' '}
                    {formatNumber(target.low, 1)} to {formatNumber(target.high, 1)}, {target.source}
                  </span>
                )}
              </dt>
              <dd className="shrink-0 text-[1.1rem] font-bold">
                <OpenWorking visitId={visit.id} of={row.key} label={label} className="min-h-11">
                  {formatNumber(value, row.decimals)} {row.unit}
                </OpenWorking>
              </dd>
            </div>
          )
        })}
      </dl>
      {there.length > first.length && (
        <Button weight="quiet" className="-ml-4" onClick={() => setAll(!all)}>
          {all ? 'Show the usual ones' : `Show all ${there.length}`}
        </Button>
      )}
    </section>
  )
}
