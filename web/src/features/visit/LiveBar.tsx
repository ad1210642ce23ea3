import { useState } from 'react'
import type { Live, Units, Visit } from '../../api/types'
import { useKeys } from '../../state/keys'
import { useLink } from '../../state/live'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { Notice } from '../../ui/Notice'
import { ReasonForm } from './ReasonForm'

type Props = {
  visit: Visit
  live: Live
  units: Units
  /** The verdict's own button offers to use the readings already. */
  isOffered: boolean
  /** It is stopped, or no refrigerant is in it: nothing settles, nothing is judged. */
  isQuiet: boolean
  onInstruments: () => void
  onWork: () => void
}

const WORDS: Record<Live['state'], string> = {
  settled: 'Settled',
  settling: 'Settling',
  hunting: 'Hunting',
  unknown: 'Not known',
  standing: 'Standing',
}

/** What the instruments say of themselves: settled or when, who lies, and what to do with it. */
export function LiveBar(props: Props) {
  const { visit, live, units, isOffered, isQuiet, onInstruments, onWork } = props
  const [asks, setAsks] = useState(false)
  const link = useLink()
  const keep = () => {
    if (live.state === 'settled') writeOn(visit.id, 'kept', { reason: '' }, units)
    else setAsks(true)
  }
  const first = live.lies[0]
  const putRight = () => {
    if (!first) return
    if (first.swap_with !== '') {
      const body = { one: first.channel, other: first.swap_with }
      writeOn(visit.id, 'swaps', body, units)
    } else if (first.channel !== '') {
      writeOn(visit.id, 'ignored', { channel: first.channel, ignored: true }, units)
    }
  }
  useKeys([
    { key: 'j', label: 'Use these readings', run: () => !isQuiet && keep() },
    { key: 'x', label: 'Swap or ignore the probe that lies', run: putRight },
  ])
  return (
    <section aria-label="Live readings" className="flex flex-col gap-1 pt-1">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <p
          className={`min-w-24 flex-1 leading-snug ${isQuiet ? 'invisible' : ''}`}
          data-settling={live.state}
          role="status"
        >
          <StateMark state={live.state} />
          <strong>{WORDS[live.state]}.</strong>{' '}
          {live.state !== 'settled' && live.state !== 'standing' && live.message}
          {live.load.map((one) => (
            <span key={one.label} className="text-soft">
              {' '}
              {one.label} {one.per_ten_minutes > 0 ? 'rises' : 'falls'}{' '}
              {Math.abs(one.per_ten_minutes).toFixed(1)} {one.unit} in 10 min: that is load, not
              charge.
            </span>
          ))}
          {link === 'dropped' && (
            <span> The connection dropped; it comes back by itself and nothing is lost.</span>
          )}
        </p>
        <div className="flex flex-wrap gap-1.5">
          {!isOffered && !isQuiet && (
            <Button tight keyHint="j" onClick={keep}>
              {live.state === 'settled' ? 'Use these readings' : 'Judge early'}
            </Button>
          )}
          <Button tight keyHint="i" onClick={onInstruments}>
            Instruments
          </Button>
          {visit.is_simulated && (
            <Button tight className="max-xl:hidden" keyHint="w" onClick={onWork}>
              Work on it
            </Button>
          )}
        </div>
      </div>
      {first && !isQuiet && (
        <Notice word="Probe.">
          {first.message}{' '}
          {first.channel !== '' && (
            <Button className="ml-1 px-3" keyHint="x" onClick={putRight}>
              {first.swap_with !== '' ? 'Swap the two' : 'Ignore it for now'}
            </Button>
          )}
          {live.lies.length > 1 && <span> And {live.lies.length - 1} more.</span>}
        </Notice>
      )}
      <EarlyCard
        visit={visit}
        live={live}
        units={units}
        open={asks}
        onClose={() => setAsks(false)}
      />
    </section>
  )
}

/** Steady, moving or swinging, told by shape. */
function StateMark({ state }: { state: Live['state'] }) {
  const path = {
    settled: 'M2 8H30',
    settling: 'M2 14C8 14 10 4 16 4S26 7 30 7',
    hunting: 'M2 8q3.5 -12 7 0t7 0t7 0t7 0',
    unknown: 'M2 8H10M14 8H18M22 8H30',
    standing: 'M2 14H30',
  }[state]
  return (
    <svg viewBox="0 0 32 16" aria-hidden className="mr-2 inline-block h-4 w-8 align-middle">
      <path d={path} fill="none" stroke="currentColor" strokeWidth="2.6" strokeLinecap="round" />
    </svg>
  )
}

type EarlyProps = { visit: Visit; live: Live; units: Units; open: boolean; onClose: () => void }

/** Judging before it has settled asks why. */
function EarlyCard({ visit, live, units, open, onClose }: EarlyProps) {
  return (
    <Panel open={open} onClose={onClose} title="It has not settled">
      <p>{live.message} Judge it then, for choice.</p>
      <ReasonForm
        ask="Why it has to be judged now"
        instead="Wait"
        onReason={(reason) => writeOn(visit.id, 'kept', { reason }, units)}
        onClose={onClose}
      />
    </Panel>
  )
}
