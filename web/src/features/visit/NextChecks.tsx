import type { Units, Visit, Vocabulary } from '../../api/types'
import { Care } from '../../ui/Care'
import { Heading } from '../../ui/Heading'
import { Fact } from './Seen'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units }

/** What to look at next, the best value per minute first, its caution beside it. */
export function NextChecks({ visit, vocabulary, units }: Props) {
  const checks = visit.assessment?.next_checks ?? []
  if (checks.length === 0) return null
  return (
    <section aria-label="Check next">
      <Heading aside="minutes">Check next</Heading>
      <ol>
        {checks.map((check) => (
          <li key={check.key} className="flex gap-3 border-b border-rule py-2">
            <div className="min-w-0 flex-1">
              <p className="leading-snug font-bold">{check.label}</p>
              <p className="text-[0.92rem] leading-snug text-soft">{check.why}</p>
              {check.caution !== '' && <Care word="Care:">{check.caution}</Care>}
              {check.outcomes.length > 0 && (
                <div className="mt-2 flex flex-wrap gap-2">
                  {vocabulary.observations
                    .filter((fact) => check.outcomes.includes(fact.key))
                    .map((fact) => (
                      <Fact key={fact.key} fact={fact} visit={visit} units={units} />
                    ))}
                </div>
              )}
            </div>
            <span className="text-[1.1rem] font-bold">{check.minutes}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
