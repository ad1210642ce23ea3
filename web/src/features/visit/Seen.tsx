import { useState } from 'react'
import type { Units, Visit, Vocabulary } from '../../api/types'
import { Machine, type PartState } from '../../drawing/Machine'
import { writeOn } from '../../state/outbox'
import { Heading } from '../../ui/Heading'

const PLACES = ['Indoors', 'Outdoors', 'Refrigerant', 'Tests']

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units }

/** What was looked at: touch the part on the machine, then say what was found there. */
export function Seen({ visit, vocabulary, units }: Props) {
  const [part, setPart] = useState('')
  const facts = vocabulary.observations
  const chosen = vocabulary.parts.find((one) => one.key === part)
  return (
    <section aria-label="Seen">
      <Heading aside={`${visit.observations.length} ticked`}>Seen and tested</Heading>
      <div className="mt-2">
        <Machine
          label="The machine, by its parts"
          parts={vocabulary.parts}
          states={statesOf(visit, vocabulary)}
          chosen={part}
          onChoose={setPart}
        />
      </div>
      {chosen ? (
        <div role="group" aria-label={chosen.label} className="mt-2">
          <p className="font-bold">{chosen.label}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {facts
              .filter((fact) => fact.part === part)
              .map((fact) => (
                <Fact key={fact.key} fact={fact} visit={visit} units={units} />
              ))}
          </div>
        </div>
      ) : (
        <p className="text-[0.92rem] text-soft">Touch a part to say what you found there.</p>
      )}
      <details className="mt-2">
        <summary className="flex min-h-11 cursor-pointer items-center underline decoration-rule-strong underline-offset-4">
          All of it as a list
        </summary>
        {PLACES.map((place) => (
          <div key={place} role="group" aria-label={place} className="mt-2">
            <p className="text-[0.88rem] text-soft">{place}</p>
            <div className="mt-1 flex flex-wrap gap-2">
              {facts
                .filter((fact) => fact.where === place)
                .map((fact) => (
                  <Fact key={fact.key} fact={fact} visit={visit} units={units} />
                ))}
            </div>
          </div>
        ))}
      </details>
    </section>
  )
}

/** A part is found right once its harmless facts are ticked; any other ticked fact is a finding. */
function statesOf(visit: Visit, vocabulary: Vocabulary): Partial<Record<string, PartState>> {
  const states: Partial<Record<string, PartState>> = {}
  const harmless = harmlessOf(vocabulary)
  for (const fact of vocabulary.observations) {
    const on = visit.observations.includes(fact.key)
    const before = states[fact.part] ?? 'unseen'
    const state = !on ? 'unseen' : harmless.has(fact.key) ? 'right' : 'found'
    states[fact.part] = before === 'found' || state === 'unseen' ? before : state
  }
  return states
}

/** Of two opposites the first listed is the harmless one. */
function harmlessOf(vocabulary: Vocabulary): Set<string> {
  const listed = vocabulary.observations.map((fact) => fact.key)
  return new Set(
    vocabulary.observations
      .filter(
        (fact) =>
          fact.opposite !== null && listed.indexOf(fact.opposite) > listed.indexOf(fact.key),
      )
      .map((fact) => fact.key),
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
