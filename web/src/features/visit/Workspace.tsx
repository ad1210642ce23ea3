import { Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Order, Standing, Vocabulary } from '../../api/types'
import { later } from '../../lib/later'
import { useKeys } from '../../state/keys'
import { inMinutes, minutesSince } from '../../lib/format'
import { lastHeard, useFollowing, useLink } from '../../state/live'
import { useNarrow, useStacked } from '../../state/narrow'
import { writeOn } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { useLastDone } from '../../state/toasts'
import { NOTHING, SpokenContext, type Spoken } from '../../state/spoken'
import { LeftOut } from '../../ui/LeftOut'
import { useNow } from '../../state/now'
import { usePast } from '../../state/past'
import { PanelSlot } from '../../ui/Panel'
import { actOf, type Act } from './acts'
import { CalloutLine, callOut } from './CalloutLine'
import { Drawer, type Tab } from './Drawer'
import { finish } from './finish'
import { LiveBar } from './LiveBar'
import { nudgeOf } from './NudgeCard'
import { OrderRail } from './order/OrderRail'
import { Panels, type PanelName } from './Panels'
import { note, type Kind } from './RunClock'
import { drawingsOf, Stage, usualDrawing, type Drawing } from './stage/Stage'
import { Wait } from './stage/Wait'
import { Strip } from './stage/Strip'
import { NextTab } from './tabs/NextTab'
import { ReadingsTab } from './tabs/ReadingsTab'
import { WhyTab } from './tabs/WhyTab'
import { saidOf, VerdictRow } from './VerdictRow'
import { RunningTests } from './tests/RunningTests'
import { VisitBar } from './VisitBar'
import { menuOf } from './visitMenu'

const StepsTab = later(async () => (await import('./order/StepsTab')).StepsTab)

type Props = { visit: Standing; vocabulary: Vocabulary }

/** The visit on one screen: verdict, the Loop with its numbers, a drawer beside it, the line. */
export function Workspace({ visit, vocabulary }: Props) {
  const { units, sound } = usePreferences()
  const now = useNow()
  const isOpen = visit.state !== 'closed'
  useFollowing(visit.id, units, isOpen)
  useTitle(visit)
  const isHand = useNarrow()
  const isStacked = useStacked()
  const nudge = nudgeOf(visit)
  const [chosen, setTab] = useState<Tab | null>(null)
  const tab = chosen ?? (nudge || visit.circuit ? 'Next' : 'Why')
  const [drawing, setDrawing] = useState<Drawing>(
    visit.circuit_is_open && visit.tests > 0 ? 'Film' : usualDrawing(visit),
  )
  const [panel, setPanel] = useState<PanelName | null>(null)
  const [probe, setProbe] = useState('')
  const [step, setStep] = useState({ stage: visit.order.here, form: '', asked: 0 })
  const [slot, setSlot] = useState<HTMLElement | null>(null)
  const [types, setTypes] = useState(false)
  const [spoken, setSpoken] = useState<Spoken>(NOTHING)
  const spokenOf = useMemo(() => ({ spoken, speakOf: setSpoken }), [spoken])
  const [stageRow, isPast] = usePast()
  const act = actOf(visit)
  const navigate = useNavigate()

  const show = (next: Tab) => {
    setPanel(null)
    setTab(next)
  }
  const openStage = (key: string, form = '') => {
    setStep(({ asked }) => ({ stage: key, form, asked: asked + 1 }))
    show('Steps')
  }
  const fillIn = (form: string) => openStage(stageOf(visit.order, form), form)
  const close = () => finish(visit, units, () => openStage('close'))
  const instruments = (key = '') => {
    setProbe(key)
    setPanel('instruments')
  }
  const tests = (kind = '') => {
    setProbe(kind)
    setPanel('tests')
  }
  const run = (one: Act) => {
    if (one.kind === 'dose') setPanel('dose')
    else if (one.kind === 'form') fillIn(one.form)
    else if (one.kind === 'work') note(visit, one.work as Kind, units)
    else if (one.kind === 'plate') void navigate(`/systems/${visit.system.id}`)
    else if (one.kind === 'walk') setPanel('walk')
    else if (one.kind === 'keep') writeOn(visit.id, 'kept', { reason: '' }, units)
    else if (one.kind === 'read') callOut(visit.id, one.point, vocabulary)
    else if (one.kind === 'close') close()
    else if (one.kind === 'test') tests()
    else if (one.kind === 'circuit') show('Next')
    else show('Next')
  }
  const among = drawingsOf(visit)
  const turn = among[(among.indexOf(drawing) + 1) % among.length] ?? 'Loop'
  useKeys([
    { key: '!', label: 'Do what the verdict asks', run: () => act && run(act) },
    { key: 'l', label: 'Loop, strips, target map in turn', run: () => setDrawing(turn) },
    { key: 'g', label: 'Walk the liquid line', run: () => isOpen && setPanel('walk') },
    {
      key: 'd',
      label: 'What would change the verdict',
      run: () => visit.assessment?.suspects.length && setPanel('changes'),
    },
    { key: 'y', label: 'Ways in, and how to connect', run: () => setPanel('ways') },
    { key: 'e', label: 'Order of work', run: () => openStage(visit.order.here) },
    {
      key: 'v',
      label: 'Give the nudge, or write a dose down',
      run: () => nudge && setPanel('dose'),
    },
    { key: 'i', label: 'Instruments', run: () => instruments() },
    { key: '=', label: 'Tests with time', run: () => tests() },
    { key: 'f', label: 'Read a log file', run: () => isOpen && setPanel('import') },
    {
      key: 'w',
      label: 'Work on the simulated system',
      run: () => visit.is_simulated && isOpen && setPanel('work'),
    },
    {
      key: 'r',
      label: 'The system was started now',
      run: () => isOpen && note(visit, 'system_started', units),
    },
    { key: 'h', label: 'What was done to the system', run: () => isOpen && setPanel('done') },
    {
      key: 'o',
      label: 'The system was stopped now',
      run: () => isOpen && note(visit, 'system_stopped', units),
    },
    { key: 'c', label: isOpen ? 'Close the visit' : 'Open the visit again', run: close },
  ])
  const rows = menuOf({
    visit,
    units,
    isHand,
    onPanel: setPanel,
    onDrawing: setDrawing,
    onClose: close,
    sound,
    last: useLastDone(visit.id),
  })
  return (
    <SpokenContext value={spokenOf}>
      <PanelSlot value={isStacked ? null : slot}>
        <CalloutLine visit={visit} vocabulary={vocabulary} units={units} onTypes={setTypes} />
        <div data-workspace className="flex min-h-0 flex-1 flex-col px-3 md:px-5">
          <VisitBar {...{ visit, units, now, rows }} />
          <Age visit={visit} now={now} />
          {isHand && (types || isPast) ? (
            <div className={types ? '' : 'sticky top-0 z-10'}>
              <Strip visit={visit} />
            </div>
          ) : null}
          <div className={isHand && types ? 'hidden' : 'flex flex-col pt-1.5 lg:pt-2'}>
            <VerdictRow
              visit={visit}
              act={act}
              onAct={() => act && run(act)}
              onWhy={() => setPanel(visit.assessment?.suspects.length ? 'changes' : null)}
            />
            {visit.tests_running > 0 && <RunningTests visit={visit} onOpen={(key) => tests(key)} />}
            <LeftOut of={visit.broken} />
          </div>
          <div className="flex min-h-0 flex-1 flex-col gap-x-4 lg:grid lg:min-h-[300px] lg:grid-cols-[minmax(0,1fr)_minmax(18rem,22rem)] lg:grid-rows-[minmax(0,1fr)]">
            <div
              ref={stageRow}
              className={`${isHand && types ? 'hidden' : ''} shrink-0 lg:min-h-0 lg:shrink`}
            >
              <Stage
                {...{ visit, vocabulary, drawing }}
                foot={
                  visit.live && (
                    <LiveBar
                      visit={visit}
                      live={visit.live}
                      units={units}
                      isOffered={act?.kind === 'keep'}
                      isQuiet={
                        visit.circuit_is_open || visit.assessment?.decision.key === 'stop_it'
                      }
                      onInstruments={() => instruments()}
                      onWork={() => setPanel('work')}
                    />
                  )
                }
                onDrawing={setDrawing}
                wait={
                  <Wait visit={visit} onRead={() => document.getElementById('callout')?.focus()} />
                }
                onRead={() => setPanel('import')}
                onProbe={instruments}
                onPlace={(channel, point) =>
                  writeOn(visit.id, 'placements', { channel, point }, units)
                }
              />
            </div>
            <Drawer tab={tab} onTab={show} slot={setSlot}>
              {{
                Why: (
                  <WhyTab
                    {...{ visit, vocabulary, units }}
                    onForm={fillIn}
                    onChanges={() => setPanel('changes')}
                  />
                ),
                Next: (
                  <NextTab
                    {...{ visit, vocabulary, units, nudge }}
                    onForm={fillIn}
                    onPanel={setPanel}
                    onTest={tests}
                  />
                ),
                Readings: <ReadingsTab {...{ visit, vocabulary, units, now }} onPanel={setPanel} />,
                Steps: (
                  <Suspense fallback={null}>
                    <StepsTab
                      key={step.asked}
                      {...{ visit, vocabulary, units }}
                      order={visit.order}
                      first={step.stage}
                      fills={step.form}
                      onTest={tests}
                      onClose={() => show('Why')}
                    />
                  </Suspense>
                ),
              }}
            </Drawer>
          </div>
          <OrderRail order={visit.order} onStage={(key) => openStage(key)} />
        </div>
        <Panels {...{ visit, vocabulary, units, nudge, panel, probe }} onPanel={setPanel} />
      </PanelSlot>
    </SpokenContext>
  )
}

/** Without an answer from Nudge the numbers stay, and say how old they are. */
function Age({ visit, now }: { visit: Standing; now: Date }) {
  const link = useLink()
  if (link !== 'dropped' || visit.state === 'closed') return null
  const minutes = minutesSince(new Date(lastHeard()).toISOString(), now)
  return (
    <p role="status" data-age className="border-l-4 border-alarm pl-2 text-[0.95rem]">
      <strong>Last numbers known,</strong> {inMinutes(minutes)} old: the server does not answer.
      Type on; it is kept and sent when it does.
    </p>
  )
}

/** The page is called by the visit and its verdict. */
function useTitle(visit: Standing): void {
  const title = `${visit.system.name}: ${saidOf(visit).headline}`
  const before = useRef('Nudge')
  useEffect(() => {
    const old = before.current
    document.title = title
    return () => {
      document.title = old
    }
  }, [title])
}

/** The stage at which a form is filled in. */
function stageOf(order: Order, form: string): string {
  const holds = (stage: Order['stages'][number]) => stage.steps.some((one) => one.check === form)
  return order.stages.find(holds)?.key ?? order.here
}
