import { useState } from 'react'
import type { Assessment, Suspect, Units, Visit, Vocabulary } from '../../api/types'
import { NOTHING, pointing, useSpoken, type Spoken } from '../../state/spoken'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { OpenWorking } from './OpenWorking'
import { Fact } from './Seen'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units }

const SHOWN = 3
const WORTH_A_ROW = 0.02

/** The board of suspects: belief, evidence both ways, what is missing, what would settle each. */
export function Suspects({ visit, vocabulary, units }: Props) {
  const [all, setAll] = useState(false)
  const { assessment } = visit
  const suspects = assessment?.suspects ?? []
  if (assessment === null || suspects.length === 0) return null
  const likely = suspects.filter((one) => one.belief >= WORTH_A_ROW).slice(0, SHOWN)
  const listed = all ? suspects : likely
  return (
    <section aria-label="Suspects">
      <Heading aside="how likely">Suspects</Heading>
      {assessment.pairs.map((pair) => (
        <p key={pair.label} className="border-b border-rule py-2 leading-snug">
          <strong>Two at once, {percent(pair.belief)}:</strong> {pair.label.toLowerCase()}.{' '}
          <span className="text-soft">In that order: {pair.order}.</span>
        </p>
      ))}
      <ol>
        {listed.map((suspect) => (
          <Row
            key={suspect.fault}
            {...{ visit, vocabulary, units, suspect, assessment }}
            open={suspect === suspects[0]}
          />
        ))}
      </ol>
      <Button weight="quiet" className="-ml-4" onClick={() => setAll(!all)}>
        {all ? 'Show the likely ones' : `Show all ${suspects.length}`}
      </Button>
    </section>
  )
}

type RowProps = Props & { suspect: Suspect; assessment: Assessment; open: boolean }

function Row({ visit, vocabulary, units, suspect, assessment, open }: RowProps) {
  const { speakOf } = useSpoken()
  const whole = spokenOf(assessment, suspect.for_signs, suspect.fault)
  const settles = [...suspect.acquits, ...suspect.convicts]
  const facts = vocabulary.observations.filter((fact) => settles.includes(fact.key))
  return (
    <li data-suspect={suspect.fault} className="border-b border-rule py-2">
      <details open={open}>
        <summary
          {...pointing(whole, speakOf)}
          className="flex min-h-11 cursor-pointer list-none items-center gap-3"
        >
          <span className="min-w-0 flex-1 leading-tight">
            <strong>{suspect.label}</strong>
            {suspect.which !== '' && (
              <span className="block text-[0.92rem] text-soft">{suspect.which}</span>
            )}
          </span>
          <Weight belief={suspect.belief} />
          <span className="w-14 text-right whitespace-nowrap">{percent(suspect.belief)}</span>
        </summary>
        <div onMouseEnter={() => speakOf(whole)} onMouseLeave={() => speakOf(NOTHING)}>
          <Evidence
            {...{ assessment }}
            word="For"
            sentences={suspect.for}
            signs={suspect.for_signs}
          />
          <Evidence
            {...{ assessment }}
            word="Against"
            sentences={suspect.against}
            signs={suspect.against_signs}
          />
          <Evidence
            {...{ assessment }}
            word="Missing"
            sentences={suspect.missing}
            signs={suspect.missing_signs}
          />
          <p className="mt-1 grid grid-cols-[4.4rem_1fr] text-[0.92rem] leading-snug">
            <span className="text-soft">If so</span>
            <span>{suspect.act}</span>
          </p>
          <p className="mt-1 grid grid-cols-[4.4rem_1fr] text-[0.92rem] leading-snug">
            <span className="text-soft">Told by</span>
            <span>{suspect.told_apart_by}</span>
          </p>
          {facts.length > 0 && (
            <div className="mt-2 flex flex-wrap gap-2" aria-label={`Settle ${suspect.label}`}>
              {facts.map((fact) => (
                <Fact key={fact.key} fact={fact} visit={visit} units={units} />
              ))}
            </div>
          )}
          <OpenWorking
            visitId={visit.id}
            of={`belief_${suspect.fault}`}
            label={`belief in ${suspect.label.toLowerCase()}`}
            className="text-[0.92rem] text-soft"
          >
            how {percent(suspect.belief)} came about
          </OpenWorking>
        </div>
      </details>
    </li>
  )
}

/** What is spoken of: the signs, and the readings they rest on. */
function spokenOf(assessment: Assessment, signs: string[], suspect: string | null): Spoken {
  const rows = assessment.signs.filter((row) => signs.includes(row.key))
  return { signs, points: rows.flatMap((row) => row.points), suspect }
}

function percent(belief: number): string {
  return belief < 0.01 ? '< 1 %' : `${Math.round(belief * 100)} %`
}

function Weight({ belief }: { belief: number }) {
  return (
    <svg viewBox="0 0 60 10" aria-hidden className="h-2.5 w-16">
      <path d="M0 5H60" stroke="var(--rule-strong)" strokeWidth="1.5" />
      <path d={`M0 5H${60 * belief}`} stroke="var(--ink)" strokeWidth="7" />
    </svg>
  )
}

type EvidenceProps = { assessment: Assessment; word: string; sentences: string[]; signs: string[] }

/** Sentences that can be pointed at: the Loop and the target map mark what each speaks of. */
function Evidence({ assessment, word, sentences, signs }: EvidenceProps) {
  const { speakOf } = useSpoken()
  if (sentences.length === 0) return null
  return (
    <div className="mt-1 grid grid-cols-[4.4rem_1fr] text-[0.92rem] leading-snug">
      <span className="text-soft">{word}</span>
      <ul>
        {sentences.map((sentence, index) => (
          <li key={sentence}>
            <span
              tabIndex={-1}
              data-evidence={signs[index]}
              {...pointing(spokenOf(assessment, [signs[index] ?? ''], null), speakOf)}
              className="block cursor-default rounded-sm py-0.5 hover:bg-sheet focus-visible:bg-sheet"
            >
              {sentence}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
