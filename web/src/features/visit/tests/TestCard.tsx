import { useState } from 'react'
import type { TestKind, TimedTest, Units, Visit } from '../../../api/types'
import { numberIn } from '../../../lib/format'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { stood } from './clock'
import { JointsPicture } from './JointsPicture'
import { ProofStrip } from './ProofStrip'
import { useSeconds } from './useSeconds'

type Props = {
  visit: Visit
  units: Units
  test: TimedTest
  kind: TestKind | undefined
  onBegin: (key: string) => void
}

const STATE: Record<TimedTest['state'], string> = {
  running: 'Under way',
  passed: 'Passed',
  failed: 'Not passed',
  cannot_tell: 'Cannot tell',
  aborted: 'Broken off',
}
/** Marks that are made on the drawing of the joints. */
const DRAWN = new Set(['joint_dry', 'joint_bubbles', 'joint_mended'])

/** One test: its clock, what it shows, what to do next; marks, typed readings, its end. */
export function TestCard({ visit, units, test, kind, onBegin }: Props) {
  const now = useSeconds()
  const runs = test.ended_at === null
  return (
    <article
      data-test={test.key}
      data-state={test.state}
      data-finding={test.finding}
      className="mb-3 border-b border-rule-strong pb-3"
    >
      <div className="flex items-baseline justify-between gap-3">
        <h3 className="font-bold">{test.label}</h3>
        <span className="text-[1.5rem] font-bold tabular-nums" aria-label="Time stood">
          {stood(test, now)}
        </span>
      </div>
      <p className="text-[1.15rem] leading-snug font-bold" role="status">
        <span className="sr-only">{STATE[test.state]}. </span>
        {test.headline}
      </p>
      {test.hazards.map((line) => (
        <Care key={line} word="Danger:">
          {line}
        </Care>
      ))}
      {test.warnings.map((line) => (
        <Care key={line} word="Mind:">
          {line}
        </Care>
      ))}
      {test.says.map((line) => (
        <p key={line} className="mt-1 leading-snug">
          {line}
        </p>
      ))}
      {runs && kind && visit.state !== 'closed' && (
        <Work {...{ visit, units, test, kind }} onEnd={() => onBegin('')} />
      )}
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-3 text-[0.95rem]">
        {test.readings.map(([label, value]) => (
          <Row key={label} label={label} value={value} />
        ))}
        {test.numbers.map((one) => (
          <Row key={one.key} label={one.label} value={`${one.text} ${one.off}`} how={one.how} />
        ))}
      </dl>
      {test.proof.length > 0 && <ProofStrip layouts={test.proof} />}
      {test.then.length > 0 && (
        <ul className="mt-2 leading-snug" aria-label="What would tell more">
          {test.then.map((one) => (
            <li key={one.key} className="border-l-2 border-rule-strong pl-2">
              {one.words}{' '}
              {kind && onBeginable(one.key) && (
                <button
                  type="button"
                  className="min-h-11 underline underline-offset-4"
                  onClick={() => onBegin(one.key)}
                >
                  Open it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {!runs && test.places.length > 0 && (
        <p className="mt-1 text-[0.95rem]">
          {test.places.map(([place, what]) => `${place}: ${what.replaceAll('_', ' ')}`).join(' · ')}
        </p>
      )}
      {test.schools.length > 0 && (
        <details className="mt-2">
          <summary className="min-h-11 py-2">What the customs of the trade say</summary>
          <ul className="list-disc pl-5 leading-snug">
            {test.schools.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </details>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <PaperLink visit={visit} test={test} units={units} what="certificate.pdf">
          Certificate
        </PaperLink>
        <PaperLink visit={visit} test={test} units={units} what="trace.csv">
          Trace as CSV
        </PaperLink>
      </div>
    </article>
  )
}

const BEGINABLE = new Set(['nitrogen', 'decay', 'evacuation', 'bulb', 'test_dose'])
const onBeginable = (key: string) => BEGINABLE.has(key)

/** A number; with how it came about, opened. */
function Row({ label, value, how = '' }: { label: string; value: string; how?: string }) {
  return (
    <>
      <dt className="text-soft">
        {how === '' ? (
          label
        ) : (
          <details>
            <summary className="cursor-pointer">{label}</summary>
            <span className="block leading-tight">{how}</span>
          </details>
        )}
      </dt>
      <dd className="text-right font-bold whitespace-nowrap tabular-nums">{value}</dd>
    </>
  )
}

type TypeProps = { visit: Visit; units: Units; test: TimedTest; kind: TestKind }
type WorkProps = TypeProps & { onEnd: () => void }

/** What is noted, typed and ended while a test runs. */
function Work({ visit, units, test, kind, onEnd }: WorkProps) {
  const [breaks, setBreaks] = useState(false)
  const [reason, setReason] = useState('')
  const mark = (key: string) =>
    writeOn(visit.id, 'test-marks', { run_id: test.id, mark: key, place: '' }, units)
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          data-end-test
          onClick={() => {
            const end = { run_id: test.id, reason: '', breaks_off: false }
            writeOn(visit.id, 'test-ends', end, units)
            onEnd()
          }}
        >
          End the test
        </Button>
        <Button weight="quiet" aria-expanded={breaks} onClick={() => setBreaks(!breaks)}>
          Break it off
        </Button>
      </div>
      {breaks && (
        <form
          className="mt-1 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (reason.trim() === '') return
            writeOn(visit.id, 'test-ends', { run_id: test.id, reason, breaks_off: true }, units)
            onEnd()
          }}
        >
          <input
            autoFocus
            aria-label="Why is it broken off?"
            placeholder="Why? It is printed."
            maxLength={300}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            className="h-11 min-w-0 flex-1 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
          />
          <Button type="submit" disabled={reason.trim() === ''}>
            Break off
          </Button>
        </form>
      )}
      {test.joints && (
        <JointsPicture
          joints={test.joints}
          isOpen
          onMark={(joint, key) =>
            writeOn(visit.id, 'test-marks', { run_id: test.id, mark: key, place: joint }, units)
          }
        />
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {kind.marks
          .filter((one) => !DRAWN.has(one.key))
          .map((one) => (
            <span key={one.key} className="min-w-0">
              <Button tight data-mark={one.key} onClick={() => mark(one.key)}>
                {one.label}
              </Button>
              {one.caution !== '' && <Care word="Care:">{one.caution}</Care>}
            </span>
          ))}
      </div>
      <TypeIn {...{ visit, units, test, kind }} />
    </>
  )
}

/** A reading typed, where no instrument sends it: or a second gauge. */
function TypeIn({ visit, units, test, kind }: TypeProps) {
  const [point, setPoint] = useState(kind.points[0]?.[0] ?? '')
  const [text, setText] = useState('')
  const value = numberIn(text)
  const unit = kind.points.find(([key]) => key === point)?.[2] ?? ''
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-2"
      aria-label="Type a reading of the test"
      onSubmit={(event) => {
        event.preventDefault()
        if (value === null) return
        writeOn(visit.id, 'test-readings', { run_id: test.id, point, value }, units)
        setText('')
      }}
    >
      <select
        aria-label="Which reading"
        value={point}
        onChange={(event) => setPoint(event.target.value)}
        className="h-11 min-w-0 flex-1 rounded border border-rule-strong bg-ground px-2"
      >
        {kind.points.map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
      <input
        inputMode="decimal"
        aria-label="Its value"
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 tabular-nums"
      />
      <span className="text-soft">{unit}</span>
      <Button type="submit" tight disabled={value === null}>
        Type it in
      </Button>
    </form>
  )
}

type PaperProps = {
  visit: Visit
  test: TimedTest
  units: Units
  what: 'certificate.pdf' | 'trace.csv'
  children: string
}

function PaperLink({ visit, test, units, what, children }: PaperProps) {
  const zone = encodeURIComponent(Intl.DateTimeFormat().resolvedOptions().timeZone)
  const here = `/api/visits/${encodeURIComponent(visit.id)}/tests/${encodeURIComponent(test.id)}`
  return (
    <a
      href={`${here}/${what}?units=${units}&zone=${zone}`}
      target="_blank"
      rel="noreferrer"
      className="inline-flex min-h-11 items-center rounded border border-rule-strong px-3"
    >
      {children}
    </a>
  )
}
