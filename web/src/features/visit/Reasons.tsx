import { Link } from 'react-router'
import type { Assessment, Decision, Visit } from '../../api/types'
import { usePreferences } from '../../state/preferences'
import { Button, KeyCap } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { PLATE } from './acts'
import { PassedGates } from './PassedGates'
import { note, type Kind } from './RunClock'

type ReasonsProps = {
  visit: Visit
  assessment: Assessment
  onChanges: () => void
  onForm: (form: string) => void
}

/** Why, what must be minded while doing it, and what else is in the way. */
export function Reasons({ visit, assessment, onChanges, onForm }: ReasonsProps) {
  const { charge, decision, diagnosis, readiness, hazards } = assessment
  const blocking = readiness.filter(
    (gate) => gate.effect === 'blocks' && gate.message !== decision.reason,
  )
  const isSaid = hazards.some((hazard) => hazard.message === decision.reason)
  return (
    <section aria-label="Reasons" className="flex flex-col gap-1.5">
      {!isSaid && <p data-why>{decision.reason}</p>}
      <TheOneThing {...{ visit, decision, onForm }} />
      {diagnosis && (
        <p data-diagnosis={diagnosis.confidence}>
          <strong>{diagnosis.sentence}</strong> {diagnosis.valve}{' '}
          <button
            type="button"
            onClick={onChanges}
            className="-my-2 min-h-11 underline decoration-rule-strong underline-offset-4"
          >
            What would change that
            <span className="ml-1 hidden md:inline">
              <KeyCap>d</KeyCap>
            </span>
          </button>
        </p>
      )}
      {charge.cautions.length > 0 && <Care word="Care:">{charge.cautions.join(' ')}</Care>}
      <Aside word="Also in the way:" sentences={blocking.map((gate) => gate.message)} />
      <PassedGates visit={visit} gates={readiness} />
    </section>
  )
}

type OnForm = { visit: Visit; onForm: (form: string) => void }

/** What exactly stands between this and an answer: a reading, a look, a test, work, or minutes;
 *  and what will be asked for next whatever that says, to be brought on the same way. */
function TheOneThing({ visit, decision, onForm }: OnForm & { decision: Decision }) {
  const hangs = decision.hangs_on
  if (hangs === null || hangs.kind === 'minutes') return null
  const also = decision.also_hangs_on
  return (
    <>
      <Asked
        word={also.length > 0 ? 'Two things:' : 'One thing:'}
        hangs={hangs}
        reason={decision.reason}
        {...{ visit, onForm }}
      />
      {also.map((one) => (
        <Asked
          key={one.key}
          word="And:"
          hangs={one}
          reason={decision.reason}
          {...{ visit, onForm }}
        />
      ))}
    </>
  )
}

type HangsOn = NonNullable<Decision['hangs_on']>

function Asked({
  word,
  hangs,
  reason,
  visit,
  onForm,
}: OnForm & { word: string; hangs: HangsOn; reason: string }) {
  const { units } = usePreferences()
  const why = reason.includes(hangs.why) ? '' : hangs.why
  return (
    <div data-hangs-on={hangs.key} className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <p className="leading-snug">
        <strong>
          {word} {hangs.label}.
        </strong>{' '}
        {why}
      </p>
      {hangs.form !== '' && visit.state !== 'closed' && (
        <Button className="px-3" onClick={() => onForm(hangs.form)}>
          Fill it in
        </Button>
      )}
      {hangs.key === PLATE && (
        <Link
          className="-my-2 inline-flex min-h-11 items-center underline decoration-rule-strong underline-offset-4"
          to={`/systems/${visit.system.id}`}
        >
          Open the plate
        </Link>
      )}
      {hangs.kind === 'work' && hangs.key !== PLATE && visit.state !== 'closed' && (
        <Button className="px-3" onClick={() => note(visit, hangs.key as Kind, units)}>
          Done: {hangs.label.toLowerCase()}
        </Button>
      )}
    </div>
  )
}

/** What stands beside the verdict and does not change what to do now. */
export function Besides({ assessment }: { assessment: Assessment }) {
  const unknown = assessment.readiness.filter((gate) => gate.effect === 'warns' && !gate.passed)
  return (
    <section aria-label="Besides" className="flex flex-col gap-1 empty:hidden">
      <Aside word="Over time:" sentences={assessment.over_time.map((one) => one.message)} />
      <Aside word="Not known:" sentences={unknown.map((gate) => gate.message)} />
      <Aside word="Another school differs:" sentences={otherSchools(assessment)} />
    </section>
  )
}

function Aside({ word, sentences }: { word: string; sentences: string[] }) {
  if (sentences.length === 0) return null
  return (
    <p className="text-[0.94rem] leading-snug text-soft">
      <strong className="text-ink">{word}</strong> {sentences.join(' ')}
    </p>
  )
}

const STATE_WORDS = {
  low: 'low on charge',
  right: 'right',
  high: 'overcharged',
  unknown: 'undecided',
}

/** Only when another common method would have decided differently. */
function otherSchools({ charge, units }: Assessment): string[] {
  const unit = units === 'ip' ? '°F' : 'K'
  return charge.other_methods
    .filter((other) => charge.state !== 'unknown' && other.state !== charge.state)
    .map(
      (other) =>
        `${other.label} would say ${STATE_WORDS[other.state]}, ` +
        `${Math.abs(other.off_by).toFixed(1)} ${unit} ${other.off_by < 0 ? 'under' : 'over'} its target.`,
    )
}
