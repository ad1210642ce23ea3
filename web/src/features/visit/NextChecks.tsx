import { useState } from 'react'
import type { NextCheck, Units, Visit, Vocabulary } from '../../api/types'
import { useKeys } from '../../state/keys'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { Heading } from '../../ui/Heading'
import { callOut } from './CalloutLine'
import { note } from './RunClock'
import { Fact } from './Seen'

type Props = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  onWalk: () => void
  onForm: (form: string) => void
}

/** The one check that would settle most, large; the next ones small under it. */
export function NextChecks({ visit, vocabulary, units, onWalk, onForm }: Props) {
  const [opened, setOpened] = useState<string | null>(null)
  const checks = visit.assessment?.next_checks ?? []
  const first = checks[0]
  useKeys([
    {
      key: 'b',
      label: 'How to do the next check',
      run: () => setOpened(opened === first?.key ? null : (first?.key ?? null)),
    },
  ])
  if (first === undefined) {
    return visit.assessment === null || visit.assessment.suspects.length === 0 ? null : (
      <section aria-label="Check next">
        <Heading>Check next</Heading>
        <p className="border-b border-rule py-2">
          Nothing left to read or look at would change this much.
        </p>
      </section>
    )
  }
  const card = (check: NextCheck) => (
    <Check
      key={check.key}
      {...{ visit, vocabulary, units, check, onWalk, onForm }}
      isFirst={check === first}
      open={opened === check.key}
      onToggle={() => setOpened(opened === check.key ? null : check.key)}
    />
  )
  return (
    <section aria-label="Check next">
      <Heading aside="minutes">Check next</Heading>
      <ol>{checks.map(card)}</ol>
    </section>
  )
}

type CheckProps = Props & {
  check: NextCheck
  isFirst: boolean
  open: boolean
  onToggle: () => void
}

function Check(props: CheckProps) {
  const { visit, vocabulary, units, check, isFirst, open, onToggle, onWalk, onForm } = props
  const facts = vocabulary.observations.filter((fact) =>
    check.outcomes.some((outcome) => outcome.observation === fact.key),
  )
  const detail = isFirst || open
  const weighed = check.outcomes.filter((outcome) => outcome.leads !== '')
  return (
    <li
      data-check={check.key}
      data-first={isFirst || undefined}
      className="border-b border-rule py-2 data-first:border-l-8 data-first:border-l-ink data-first:bg-sheet data-first:px-3"
    >
      <button
        type="button"
        aria-expanded={open}
        onClick={onToggle}
        className="flex min-h-11 w-full items-center gap-3 text-left"
      >
        <span className={`min-w-0 flex-1 leading-snug font-bold ${isFirst ? 'text-[1.1rem]' : ''}`}>
          {check.label}
        </span>
        <span className="text-[1.1rem] font-bold">{check.minutes}</span>
      </button>
      {detail && (
        <>
          <p className="text-[0.92rem] leading-snug text-soft">{check.why}</p>
          {check.caution !== '' && <Care word="Care:">{check.caution}</Care>}
          <div className="mt-2 flex flex-wrap gap-2">
            {check.key === 'walk_liquid_line' && (
              <Button className="px-3" keyHint="g" onClick={onWalk}>
                Start the walk
              </Button>
            )}
            {check.key === 'clean_and_read' && (
              <Button className="px-3" onClick={() => note(visit, 'condenser_cleaned', units)}>
                Outdoor coil cleaned
              </Button>
            )}
            {check.form !== '' && (
              <Button className="px-3" onClick={() => onForm(check.form)}>
                Fill it in
              </Button>
            )}
            {check.points.length > 0 && check.key !== 'walk_liquid_line' && (
              <Button
                className="px-3"
                onClick={() => callOut(visit.id, check.points[0] ?? '', vocabulary)}
              >
                Type it in
              </Button>
            )}
            {facts.map((fact) => (
              <Fact key={fact.key} fact={fact} visit={visit} units={units} />
            ))}
          </div>
        </>
      )}
      {open && (
        <div className="mt-2 text-[0.94rem] leading-snug">
          <ol className="list-decimal pl-5">
            {check.how.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
          <table className="mt-2 w-full">
            {weighed.length > 0 && (
              <caption className="text-left text-soft">What it would mean</caption>
            )}
            <tbody>
              {weighed.map((outcome) => (
                <tr key={outcome.label} className="border-t border-rule">
                  <th scope="row" className="py-1 pr-2 text-left font-normal">
                    {outcome.label}
                  </th>
                  <td className="py-1 pr-2 font-bold">{outcome.leads_label}</td>
                  <td className="py-1 text-right">{Math.round(outcome.belief * 100)} %</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </li>
  )
}
