import { useState } from 'react'
import type { Circuit, Units, Visit } from '../../../api/types'
import { WhyForm } from '../../../parts/WhyForm'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Move = Circuit['moves'][number]
type Guard = Move['guards'][number]

type Props = {
  visit: Visit
  units: Units
  move: Move
  /** What the shelf does for it, as a button; "" for nothing. */
  shelf: string
  onShelf?: () => void
  onForm: (form: string) => void
  onTest: (key: string) => void
}

const MARK = { done: '✓', open: '○', skipped: '–' }

/** One move: what guards it, each with its own way to be met, and the move itself. */
export function MoveOn({ visit, units, move, shelf, onShelf, onForm, onTest }: Props) {
  const [asks, setAsks] = useState(false)
  const go = (reason: string) => writeOn(visit.id, 'circuit', { to: move.to, reason }, units)
  const isShelf = shelf !== '' && onShelf !== undefined
  return (
    <div className="mt-2 border-t border-rule pt-2" data-move={move.to}>
      <p className="font-bold">{move.label}</p>
      <p className="text-[0.94rem] leading-snug text-soft">{move.reason}</p>
      {move.caution !== '' && <Care word="Care:">{move.caution}</Care>}
      <ul className="mt-1">
        {move.guards.map((guard) => (
          <GuardLine key={guard.step} {...{ visit, units, guard, onForm, onTest }} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        {isShelf && (
          <Button weight="do" onClick={onShelf}>
            {shelf}
          </Button>
        )}
        <Button
          weight={move.is_free && !isShelf ? 'do' : 'plain'}
          onClick={() => (move.is_free ? go('') : setAsks(!asks))}
          aria-expanded={move.is_free ? undefined : asks}
        >
          {move.is_free ? `Now: ${move.label.toLowerCase()}` : 'Go on all the same…'}
        </Button>
      </div>
      {asks && (
        <WhyForm
          label={`Why without it: ${move.label}`}
          placeholder="Why is it left out? It is printed."
          go="Go on"
          className="mt-2"
          onWhy={(reason) => {
            go(reason)
            setAsks(false)
          }}
        />
      )}
    </div>
  )
}

type GuardProps = Pick<Props, 'visit' | 'units' | 'onForm' | 'onTest'> & { guard: Guard }

/** What guards a move, and how it is met: a form, a test, or a hand. */
function GuardLine({ visit, units, guard, onForm, onTest }: GuardProps) {
  const isOpen = guard.state === 'open'
  return (
    <li className="py-1" data-guard={guard.step} data-state={guard.state}>
      <div className="flex flex-wrap items-center gap-2">
        <span aria-hidden className="w-4 text-center font-bold">
          {MARK[guard.state]}
        </span>
        <span className={`min-w-0 flex-1 basis-40 ${isOpen ? '' : 'text-soft'}`}>
          {guard.label}
          <span className="sr-only">, {guard.state}</span>
          {guard.reason !== '' && ` · because: ${guard.reason}`}
        </span>
        {isOpen && guard.test !== '' && (
          <Button tight onClick={() => onTest(guard.test)}>
            Test it
          </Button>
        )}
        {isOpen && guard.check !== '' && (
          <Button tight onClick={() => onForm(guard.check)}>
            Fill in
          </Button>
        )}
        {isOpen && guard.check === '' && (
          <Button
            tight
            weight={guard.test === '' ? 'plain' : 'quiet'}
            aria-label={`Done: ${guard.label}`}
            onClick={() =>
              writeOn(visit.id, 'ticks', { step: guard.step, state: 'done', reason: '' }, units)
            }
          >
            Done
          </Button>
        )}
      </div>
      {isOpen && guard.caution !== '' && (
        <div className="pl-6">
          <Care word="Care:">{guard.caution}</Care>
        </div>
      )}
    </li>
  )
}
