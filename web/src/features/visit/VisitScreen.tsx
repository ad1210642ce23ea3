import { useEffect, useMemo, useState } from 'react'
import { useParams } from 'react-router'
import { useVisit, useVocabulary } from '../../api/queries'
import type { Order, Standing, Units, Visit, Vocabulary } from '../../api/types'
import { useKeys } from '../../state/keys'
import { useFollowing } from '../../state/live'
import { useStacked } from '../../state/narrow'
import { changeVisit, writeOn } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { NOTHING, SpokenContext, type Spoken } from '../../state/spoken'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { CalloutLine } from './CalloutLine'
import { FourNumbers } from './FourNumbers'
import { LoopDrawing } from './LoopDrawing'
import { ChangeOfMind } from './ChangeOfMind'
import { ChartsToday } from './ChartsToday'
import { DoneCard } from './DoneCard'
import { ImportCard } from './ImportCard'
import { Instruments } from './Instruments'
import { KeptSlips } from './KeptSlips'
import { LandingDrawing } from './LandingDrawing'
import { LiveBar } from './LiveBar'
import { LookPanel } from './LookPanel'
import { NextChecks } from './NextChecks'
import { NudgeCard, nudgeOf } from './NudgeCard'
import { Numbers } from './Numbers'
import { OrderCard } from './order/OrderCard'
import { OrderRail } from './order/OrderRail'
import { Record } from './Record'
import { note } from './RunClock'
import { Seen } from './Seen'
import { Strips } from './Strips'
import { Suspects } from './Suspects'
import { Besides, Reasons, Verdict } from './Verdict'
import { WalkCard } from './WalkCard'
import { WaysCard } from './WaysCard'
import { Head } from './VisitHead'
import { WorkCard } from './WorkCard'

/** The workspace of one visit: verdict, four numbers, the Loop, and the line to call out to. */
export function VisitScreen() {
  const { visitId = '' } = useParams()
  const visit = useVisit(visitId)
  const vocabulary = useVocabulary()
  return (
    <LoadState of={visit}>
      {(ready) => (
        <LoadState of={vocabulary}>
          {(words) => <Workspace key={ready.id} visit={ready} vocabulary={words} />}
        </LoadState>
      )}
    </LoadState>
  )
}

function Workspace({ visit, vocabulary }: { visit: Standing; vocabulary: Vocabulary }) {
  const { units } = usePreferences()
  const now = useNow()
  const isOpen = visit.state !== 'closed'
  useFollowing(visit.id, units, isOpen)
  const nudge = nudgeOf(visit)
  const order = visit.order
  const [stage, setStage] = useState<string | null>(null)
  const [form, setForm] = useState('')
  const fillIn = (key: string) => {
    setForm(key)
    setStage(stageOf(order, key))
  }
  const finish = () => finished(visit, order, units, () => setStage('close'))
  const isNarrow = useStacked()
  const [drawing, setDrawing] = useState<Drawing>('Loop')
  const [spoken, setSpoken] = useState<Spoken>(NOTHING)
  const spokenOf = useMemo(() => ({ spoken, speakOf: setSpoken }), [spoken])
  const [card, setCard] = useState<'walk' | 'done' | 'changes' | null>(null)
  const showsStrips = drawing === 'Strips'
  const nextDrawing = DRAWINGS[(DRAWINGS.indexOf(drawing) + 1) % DRAWINGS.length] ?? 'Loop'
  const [drawer, setDrawer] = useState<string | null>(null)
  const [works, setWorks] = useState(false)
  const [ways, setWays] = useState(false)
  const [imports, setImports] = useState(false)
  useKeys([
    { key: 'l', label: 'Loop, strips, Landing in turn', run: () => setDrawing(nextDrawing) },
    {
      key: 'g',
      label: 'Walk the liquid line',
      run: () => isOpen && setCard(card === 'walk' ? null : 'walk'),
    },
    {
      key: 'd',
      label: 'What would change the verdict',
      run: () => visit.assessment?.suspects.length && setCard('changes'),
    },
    { key: 'y', label: 'Ways in, and how to connect', run: () => setWays(true) },
    { key: 'e', label: 'Order of work', run: () => setStage(order.here) },
    { key: 'i', label: 'Instruments', run: () => setDrawer('') },
    { key: 'f', label: 'Read a log file', run: () => isOpen && setImports(true) },
    {
      key: 'w',
      label: 'Work on the simulated system',
      run: () => visit.is_simulated && isOpen && setWorks(true),
    },
    {
      key: 'r',
      label: 'The system was started now',
      run: () => visit.state !== 'closed' && note(visit, 'system_started', units),
    },
    {
      key: 'h',
      label: 'What was done to the system',
      run: () => visit.state !== 'closed' && setCard('done'),
    },
    {
      key: 'o',
      label: 'The system was stopped now',
      run: () => visit.state !== 'closed' && note(visit, 'system_stopped', units),
    },
    {
      key: 'c',
      label: visit.state === 'closed' ? 'Open the visit again' : 'Close the visit',
      run: finish,
    },
  ])
  return (
    <SpokenContext value={spokenOf}>
      <div data-workspace className="flex min-h-0 flex-1 flex-col px-4 pt-2 md:px-6">
        <Head
          {...{ visit, units, now }}
          onDone={() => setCard('done')}
          onWays={() => setWays(true)}
          onFinish={finish}
        />
        <OrderRail order={order} onStage={setStage} />
        <div className="grid min-h-0 flex-1 grid-cols-1 gap-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <div className="flex min-w-0 flex-col gap-3 pt-3 pb-2 lg:overflow-y-auto">
            {visit.live && (
              <LiveBar
                visit={visit}
                live={visit.live}
                units={units}
                showsStrips={showsStrips}
                onStrips={() => setDrawing(showsStrips ? 'Loop' : 'Strips')}
                onInstruments={() => setDrawer('')}
                onWork={() => setWorks(true)}
              />
            )}
            {!visit.look && <Verdict visit={visit} />}
            {isNarrow && nudge && (
              <NudgeCard {...{ visit, units }} advice={nudge} onWays={() => setWays(true)} />
            )}
            {showsStrips && visit.assessment && (
              <p className="-mt-1 pl-6">{visit.assessment.decision.reason}</p>
            )}
            {visit.assessment && !visit.look && !showsStrips && card !== 'walk' && (
              <div className="max-lg:order-1">
                <Reasons
                  visit={visit}
                  assessment={visit.assessment}
                  onForm={fillIn}
                  onChanges={() => setCard('changes')}
                />
              </div>
            )}
            {visit.look && <LookPanel look={visit.look} />}
            {!visit.look && card !== 'walk' && (
              <FourNumbers
                visitId={visit.id}
                assessment={visit.assessment}
                readings={visit.readings}
                vocabulary={vocabulary}
              />
            )}
            {card === 'walk' && (
              <WalkCard {...{ visit, vocabulary, units }} onClose={() => setCard(null)} />
            )}
            <div
              className={`${showsStrips ? 'h-[30rem]' : 'h-80'} relative max-lg:order-2 max-lg:mt-11 lg:h-auto lg:min-h-60 lg:flex-1`}
            >
              {visit.assessment && !visit.look && <Drawings of={drawing} onDrawing={setDrawing} />}
              {showsStrips ? (
                <Strips visit={visit} />
              ) : drawing === 'Landing' && visit.assessment ? (
                <LandingDrawing
                  footprints={visit.footprints}
                  assessment={visit.assessment}
                  nudge={nudge}
                  unit={vocabulary.derived.find((one) => one.key === 'superheat')?.unit ?? ''}
                />
              ) : visit.loop && visit.assessment && visit.loop.levels.length > 0 ? (
                <LoopDrawing
                  loop={visit.loop}
                  assessment={visit.assessment}
                  vocabulary={vocabulary}
                  instruments={visit.live?.instruments ?? []}
                  onProbe={(key) => setDrawer(key)}
                  onPlace={(channel, point) =>
                    writeOn(visit.id, 'placements', { channel, point }, units)
                  }
                />
              ) : (
                <EmptyLoop />
              )}
            </div>
            {visit.assessment && !visit.look && card !== 'walk' && (
              <div className="max-lg:order-3">
                <Besides assessment={visit.assessment} />
              </div>
            )}
          </div>
          <div className="flex min-w-0 flex-col gap-5 pt-3 pb-6 lg:overflow-y-auto lg:px-1">
            {!isNarrow && nudge && (
              <NudgeCard {...{ visit, units }} advice={nudge} onWays={() => setWays(true)} />
            )}
            {visit.look?.decision !== 'leave_caps_on' && (
              <>
                <NextChecks
                  {...{ visit, vocabulary, units }}
                  onWalk={() => setCard('walk')}
                  onForm={fillIn}
                />
                <Suspects {...{ visit, vocabulary, units }} />
              </>
            )}
            <Numbers visit={visit} vocabulary={vocabulary} />
            <Record visit={visit} units={units} now={now} />
            {isOpen && visit.live === null && (
              <section aria-label="Instruments and logs">
                <Heading>Instruments and logs</Heading>
                <p className="py-2 text-soft">
                  Nothing is sending. A device can send to this visit; a log can be read in.
                </p>
                <div className="flex flex-wrap gap-2">
                  <Button className="px-3" keyHint="f" onClick={() => setImports(true)}>
                    Read a log file
                  </Button>
                </div>
              </section>
            )}
            <KeptSlips slips={visit.slips} now={now} />
            <ChartsToday charts={visit.charts} />
            <Seen visit={visit} vocabulary={vocabulary} units={units} />
          </div>
        </div>
      </div>
      <CalloutLine visit={visit} vocabulary={vocabulary} units={units} />
      {drawer !== null && (
        <Instruments
          visit={visit}
          units={units}
          vocabulary={vocabulary}
          first={drawer}
          onClose={() => setDrawer(null)}
          onImport={() => {
            setDrawer(null)
            setImports(true)
          }}
        />
      )}
      {ways && <WaysCard visit={visit} units={units} onClose={() => setWays(false)} />}
      {works && <WorkCard visit={visit} units={units} onClose={() => setWorks(false)} />}
      {imports && (
        <ImportCard visit={visit} vocabulary={vocabulary} onClose={() => setImports(false)} />
      )}
      {card === 'done' && (
        <DoneCard {...{ visit, vocabulary, units }} advice={nudge} onClose={() => setCard(null)} />
      )}
      {stage !== null && (
        <OrderCard
          key={stage}
          {...{ visit, units, order }}
          first={stage}
          fills={form}
          onClose={() => {
            setStage(null)
            setForm('')
          }}
        />
      )}
      {card === 'changes' && <ChangeOfMind visit={visit} onClose={() => setCard(null)} />}
    </SpokenContext>
  )
}

/** The stage at which a form is filled in. */
function stageOf(order: Order, form: string): string {
  const holds = (stage: Order['stages'][number]) => stage.steps.some((one) => one.check === form)
  return order.stages.find(holds)?.key ?? order.here
}

/** Close it, or, where something is still open that can hurt, show that first; or open it again. */
function finished(visit: Visit, order: Order, units: Units, show: () => void) {
  if (visit.state === 'closed') changeVisit(visit.id, { closed: false }, units)
  else if (order.dangers.length > 0) show()
  else writeOn(visit.id, 'closings', {}, units)
}

const DRAWINGS = ['Loop', 'Strips', 'Landing'] as const
type Drawing = (typeof DRAWINGS)[number]

/** Which drawing stands in the middle: three ways to see the same visit. */
function Drawings({ of, onDrawing }: { of: Drawing; onDrawing: (of: Drawing) => void }) {
  return (
    <div
      role="group"
      aria-label="Drawing"
      className="absolute -top-11 left-0 z-10 flex bg-ground lg:top-0 lg:right-0 lg:left-auto"
    >
      {DRAWINGS.map((name) => (
        <button
          key={name}
          type="button"
          aria-pressed={name === of}
          onClick={() => onDrawing(name)}
          className="min-h-11 border-b-4 border-transparent px-2.5 text-[0.94rem] text-soft aria-pressed:border-ink aria-pressed:font-bold aria-pressed:text-ink"
        >
          {name}
        </button>
      ))}
    </div>
  )
}

function EmptyLoop() {
  return (
    <div className="flex h-full flex-col items-center justify-center gap-2 rounded border-2 border-dashed border-rule-strong px-6 text-center">
      <svg viewBox="0 0 300 80" aria-hidden className="w-64 text-rule-strong">
        <path
          d="M8 30V8M8 12H40L48 22H118L140 30H170L180 66H240L262 54H292"
          fill="none"
          stroke="currentColor"
          strokeWidth="4"
          strokeLinejoin="round"
          strokeDasharray="1 8"
          strokeLinecap="round"
        />
      </svg>
      <p>The Loop draws itself from a pressure and a line temperature.</p>
    </div>
  )
}

const TICK_MS = 10_000

/** The time, kept fresh enough for minutes. */
function useNow(): Date {
  const [now, setNow] = useState(() => new Date())
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), TICK_MS)
    return () => clearInterval(timer)
  }, [])
  return now
}
