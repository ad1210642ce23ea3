import { writeOn } from '../../state/outbox'
import type { Units, Visit, Vocabulary } from '../../api/types'
import { Heading } from '../../ui/Heading'

const PLACES = ['Indoors', 'Outdoors', 'Refrigerant', 'Tests']

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units }

/** What was looked at: one tap ticks it, another takes it back. Opposites exclude each other. */
export function Seen({ visit, vocabulary, units }: Props) {
  return (
    <section aria-label="Seen">
      <Heading aside={`${visit.observations.length} ticked`}>Seen and tested</Heading>
      {PLACES.map((place) => (
        <div key={place} role="group" aria-label={place} className="mt-2">
          <p className="text-[0.88rem] text-soft">{place}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {vocabulary.observations
              .filter((fact) => fact.where === place)
              .map((fact) => (
                <Fact key={fact.key} fact={fact} visit={visit} units={units} />
              ))}
          </div>
        </div>
      ))}
    </section>
  )
}

type FactProps = { fact: Vocabulary['observations'][number]; visit: Visit; units: Units }

/** One tickable fact. */
export function Fact({ fact, visit, units }: FactProps) {
  const on = visit.observations.includes(fact.key)
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={visit.state === 'closed'}
      onClick={() => writeOn(visit.id, 'observations', { key: fact.key, seen: !on }, units)}
      className="min-h-11 rounded border border-rule-strong bg-sheet px-3 text-[0.92rem] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-ground"
    >
      {on ? '✓ ' : ''}
      {fact.label}
    </button>
  )
}
