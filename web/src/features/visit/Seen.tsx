import { writeOn } from '../../state/outbox'
import type { Units, Visit, Vocabulary } from '../../api/types'
import { Heading } from '../../ui/Heading'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units }

/** What was looked at: one tap ticks it, another takes it back. Opposites exclude each other. */
export function Seen({ visit, vocabulary, units }: Props) {
  return (
    <section aria-label="Seen">
      <Heading aside={`${visit.observations.length} ticked`}>Seen and tested</Heading>
      <div className="mt-2 flex flex-wrap gap-2">
        {vocabulary.observations.map((fact) => (
          <Fact key={fact.key} fact={fact} visit={visit} units={units} />
        ))}
      </div>
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
