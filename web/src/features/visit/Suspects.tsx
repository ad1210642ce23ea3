import { useState } from 'react'
import type { Suspect } from '../../api/types'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { OpenWorking } from './OpenWorking'

type Props = { visitId: string; suspects: Suspect[] }

const SHOWN = 3

/** Suspects by belief, each with what speaks for it, against it, and what is missing. */
export function Suspects({ visitId, suspects }: Props) {
  const [all, setAll] = useState(false)
  if (suspects.length === 0) return null
  const listed = all ? suspects : suspects.slice(0, SHOWN)
  return (
    <section aria-label="Suspects">
      <Heading aside="how likely">Suspects</Heading>
      <ol>
        {listed.map((suspect) => (
          <li key={suspect.fault} className="border-b border-rule py-2">
            <details open={suspect === listed[0]}>
              <summary className="flex min-h-8 cursor-pointer list-none items-center gap-3">
                <span className="min-w-0 flex-1 font-bold">{suspect.label}</span>
                <Weight belief={suspect.belief} />
                <span className="w-12 text-right">{percent(suspect.belief)}</span>
              </summary>
              <OpenWorking
                visitId={visitId}
                of={`belief_${suspect.fault}`}
                label={`belief in ${suspect.label.toLowerCase()}`}
                className="text-[0.92rem] text-soft"
              >
                how {percent(suspect.belief)} came about
              </OpenWorking>
              <Evidence word="For" sentences={suspect.for} />
              <Evidence word="Against" sentences={suspect.against} />
              <Evidence word="Missing" sentences={suspect.missing} />
            </details>
          </li>
        ))}
      </ol>
      <Button weight="quiet" className="-ml-4" onClick={() => setAll(!all)}>
        {all ? 'Show the first three' : `Show all ${suspects.length}`}
      </Button>
    </section>
  )
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

function Evidence({ word, sentences }: { word: string; sentences: string[] }) {
  if (sentences.length === 0) return null
  return (
    <div className="mt-1 grid grid-cols-[4.4rem_1fr] text-[0.92rem] leading-snug">
      <span className="text-soft">{word}</span>
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </div>
  )
}
