import type { Standing } from '../../api/types'
import { Button, KeyCap } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import type { Act } from './acts'

type Props = { visit: Standing; act: Act | null; onAct: () => void; onWhy: () => void }

/** The verdict: dangers first, then what to do in one line, and the one thing to touch. */
export function VerdictRow({ visit, act, onAct, onWhy }: Props) {
  const said = saidOf(visit)
  return (
    <section aria-label="Verdict" aria-live="polite" className="flex flex-col gap-1">
      {visit.assessment?.hazards.map((hazard) => (
        <Notice
          key={hazard.key}
          word={hazard.effect === 'stops' ? 'Danger. Stop it.' : 'Danger to the machine.'}
        >
          {hazard.message}
        </Notice>
      ))}
      {visit.problem !== null && (
        <Notice word="Cannot judge.">
          {visit.problem} Every reading is kept. Correct the plate or the reading.
        </Notice>
      )}
      <div className="flex min-h-12 items-center gap-3 border-l-8 border-ink pl-3">
        <p
          className="line-clamp-3 min-w-0 flex-1 text-[1.3rem] leading-tight font-bold lg:line-clamp-2 lg:text-[1.45rem]"
          {...said.marks}
        >
          {said.headline}
        </p>
        {act && (
          <Button
            weight="do"
            className="shrink-0 max-sm:px-3"
            keyHint="!"
            data-act={act.kind}
            onClick={onAct}
          >
            {act.label}
          </Button>
        )}
      </div>
      {said.reason !== '' && (
        <p className="flex gap-3 pl-5 text-[0.95rem] leading-snug max-lg:hidden">
          <span className="line-clamp-1 min-w-0" data-reason>
            {said.reason}
          </span>
          {(visit.assessment?.suspects.length ?? 0) > 0 && (
            <button
              type="button"
              onClick={onWhy}
              className="-my-3 min-h-11 shrink-0 underline decoration-rule-strong underline-offset-4"
            >
              why <KeyCap>d</KeyCap>
            </button>
          )}
        </p>
      )}
    </section>
  )
}

type Said = { headline: string; reason: string; marks: Record<string, string> }

/** One decision, or, where there is none yet, what to begin with. */
export function saidOf(visit: Standing): Said {
  if (visit.look && !visit.circuit_is_open) {
    const { headline, reasons, decision } = visit.look
    return { headline, reason: reasons.join(' '), marks: { 'data-look': decision } }
  }
  const decision = visit.assessment?.decision
  if (decision) {
    const isSaid = visit.assessment?.hazards.some((one) => one.message === decision.reason)
    const marks = {
      'data-verdict': decision.advice,
      'data-decision': decision.key,
      'data-state': decision.state,
    }
    return { headline: decision.headline, reason: isSaid ? '' : decision.reason, marks }
  }
  const [headline, reason] = visit.circuit_said
  if (headline !== undefined && reason !== undefined) {
    return { headline, reason, marks: { 'data-verdict': 'do_not_charge' } }
  }
  return {
    headline: visit.problem === null ? 'Type what you read.' : 'Not judged.',
    reason: 'Two pressures, two line temperatures and outdoor air are enough for a first verdict.',
    marks: { 'data-verdict': 'none' },
  }
}
