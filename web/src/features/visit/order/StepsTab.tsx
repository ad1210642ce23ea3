import { useState } from 'react'
import type { Order, Stage, Units, Visit, Vocabulary } from '../../../api/types'
import { WhyForm } from '../../../parts/WhyForm'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { CheckForm } from './CheckForm'
import { Closing } from './Closing'
import { ClosingPicture } from './ClosingPicture'
import { Notes } from './Notes'
import { openWords } from './OrderRail'
import { Pictures } from './Pictures'

type Props = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  order: Order
  first: string
  /** The form that is filled in at once; "" for none. */
  fills: string
  /** Opens the test that proves a step. */
  onTest: (key: string) => void
  onClose: () => void
}

/** The whole order of work, one stage open at a time: its steps, its checks, its cautions. */
export function StepsTab(props: Props) {
  const { visit, vocabulary, units, order, first, fills, onTest, onClose } = props
  const [open, setOpen] = useState(first)
  const isOpen = visit.state !== 'closed'
  return (
    <section aria-label="Order of work">
      {visit.system.safety_class !== 'A1' && (
        <Care
          word={`Care: ${visit.system.refrigerant} is flammable (${visit.system.safety_class}).`}
        >
          Ventilate, no ignition source, rated tools, maker’s limits.
        </Care>
      )}
      <label className="flex flex-wrap items-center gap-x-3">
        <span className="text-soft">Kind of call</span>
        <select
          value={order.kind}
          disabled={!isOpen}
          onChange={(event) => writeOn(visit.id, 'kinds', { kind: event.target.value }, units)}
          className="h-11 rounded border border-rule-strong bg-ground px-2"
        >
          {order.kinds.map((kind) => (
            <option key={kind.key} value={kind.key}>
              {kind.label}
            </option>
          ))}
        </select>
        <span className="basis-full text-[0.92rem] text-soft">{order.kind_reason}</span>
      </label>
      <Probes order={order} />
      <ol className="mt-3 border-t border-rule-strong">
        {order.stages.map((stage) => (
          <li
            key={stage.key}
            ref={stage.key === first ? shown : undefined}
            data-stage-row={stage.key}
            className="border-b border-rule"
          >
            <button
              type="button"
              aria-expanded={open === stage.key}
              onClick={() => setOpen(open === stage.key ? '' : stage.key)}
              className="flex min-h-12 w-full items-center justify-between gap-3 text-left"
            >
              <span className={stage.key === order.here ? 'font-bold' : ''}>{stage.label}</span>
              <span className="text-[0.92rem] text-soft">{openWords(stage)}</span>
            </button>
            {open === stage.key && (
              <Steps {...{ visit, vocabulary, units, order, stage, fills, onTest, onClose }} />
            )}
          </li>
        ))}
      </ol>
      <Notes visit={visit} units={units} order={order} />
      <Pictures visit={visit} order={order} />
    </section>
  )
}

/** What this kind of call reads: what is read, and what is missing still. */
function Probes({ order }: { order: Order }) {
  const missing = order.probes.filter((one) => !one.is_read)
  if (order.probes.length === 0) return null
  return (
    <p className="mt-1 text-[0.92rem] leading-snug" data-probes-missing={missing.length}>
      {missing.length === 0 ? (
        <>All {order.probes.length} readings of this call are there.</>
      ) : (
        <>
          <strong>Still to place:</strong>{' '}
          {missing.map((one) => one.label.toLowerCase()).join(', ')}.{' '}
          {order.probes.length - missing.length} of {order.probes.length} read.
        </>
      )}
    </p>
  )
}

/** Brings the stage that was asked for to the top, once. */
const shown = (row: HTMLLIElement | null) => row?.scrollIntoView({ block: 'start' })

type StageProps = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  order: Order
  stage: Stage
  fills: string
  onTest: (key: string) => void
  onClose: () => void
}

function Steps({ visit, vocabulary, units, order, stage, fills, onTest, onClose }: StageProps) {
  const [part, setPart] = useState('')
  const isPictured = stage.steps.some((step) => step.part !== '')
  const shows = stage.steps.filter((step) => part === '' || step.part === part)
  return (
    <div className="pb-3">
      {stage.why !== '' && <p className="border-l-4 border-accent pl-2">Blocked: {stage.why}</p>}
      {isPictured && (
        <ClosingPicture
          steps={stage.steps}
          parts={vocabulary.parts}
          chosen={part}
          onChoose={setPart}
        />
      )}
      <ul>
        {shows.map((step) => (
          <StepLine
            key={step.key}
            {...{ visit, vocabulary, units, order, step, onTest }}
            filled={step.check === fills}
          />
        ))}
      </ul>
      {stage.key === 'close' && <Closing {...{ visit, units, order }} onClosed={onClose} />}
    </div>
  )
}

type StepProps = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  order: Order
  step: Stage['steps'][number]
  filled: boolean
  onTest: (key: string) => void
}

const MARK = { done: '✓', open: '○', skipped: '–' }

function StepLine({ visit, vocabulary, units, order, step, filled, onTest }: StepProps) {
  const [skips, setSkips] = useState(false)
  const [fills, setFills] = useState(filled && step.check !== '')
  const isOpen = visit.state !== 'closed'
  const form = vocabulary.forms.find((one) => one.key === step.check)
  const check = order.checks.find((one) => one.key === step.check)
  const tick = (state: 'done' | 'skipped' | '', why = '') =>
    writeOn(visit.id, 'ticks', { step: step.key, state, reason: why }, units)
  return (
    <li data-step={step.key} data-state={step.state} className="py-1.5">
      <div className="flex flex-wrap items-center gap-2">
        <span aria-hidden className="w-4 text-center font-bold">
          {MARK[step.state]}
        </span>
        <span className={`min-w-0 flex-1 basis-40 ${step.state === 'done' ? 'text-soft' : ''}`}>
          {step.label}
          <span className="sr-only">, {step.state}</span>
          {step.reason !== '' && <em className="not-italic"> · because: {step.reason}</em>}
        </span>
        {isOpen && form && (
          <Button tight aria-expanded={fills} onClick={() => setFills(!fills)}>
            {(check?.state ?? '') === '' ? 'Fill in' : 'Change'}
          </Button>
        )}
        {isOpen && step.test !== '' && step.state !== 'done' && (
          <Button tight weight="plain" onClick={() => onTest(step.test)}>
            Test it
          </Button>
        )}
        {isOpen && step.state === 'open' && (
          <>
            {!form && (
              <Button tight aria-label={`Done: ${step.label}`} onClick={() => tick('done')}>
                Done
              </Button>
            )}
            <Button
              tight
              weight="quiet"
              aria-label={`Skip: ${step.label}`}
              onClick={() => (step.blocks === '' ? tick('skipped') : setSkips(!skips))}
            >
              Skip
            </Button>
          </>
        )}
        {isOpen && step.by_hand && step.state !== 'open' && (
          <Button tight weight="quiet" onClick={() => tick('')}>
            Open again
          </Button>
        )}
      </div>
      {step.caution !== '' && step.state === 'open' && !(fills && form) && (
        <div className="pl-6">
          <Care word="Care:">{step.caution}</Care>
        </div>
      )}
      {skips && (
        <WhyForm
          label={`Why is it skipped: ${step.label}`}
          placeholder={`It stands before ${step.blocks}. Why is it skipped?`}
          go="Skip it"
          className="mt-1 pl-6"
          onWhy={(reason) => {
            tick('skipped', reason)
            setSkips(false)
          }}
        />
      )}
      {check && check.said.length > 0 && (
        <p className="pl-6 leading-snug" data-finding={check.state}>
          <strong>{STATE_WORD[check.state] ?? ''}</strong> {check.said.join(' ')}
        </p>
      )}
      {fills && form && (
        <CheckForm {...{ visit, units, form, check }} onDone={() => setFills(false)} />
      )}
    </li>
  )
}

const STATE_WORD: Record<string, string> = { good: 'Right.', watch: 'Mind.', bad: 'Not right.' }
