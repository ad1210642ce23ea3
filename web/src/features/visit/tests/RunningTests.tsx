import { useTests } from '../../../api/queries'
import type { Standing } from '../../../api/types'
import { stood } from './clock'
import { useSeconds } from './useSeconds'

type Props = { visit: Standing; onOpen: (key: string) => void }

/** What is being tested now, beside the verdict: its clock and what it says so far. */
export function RunningTests({ visit, onOpen }: Props) {
  const tests = useTests(visit.id, true)
  const now = useSeconds()
  if (tests.status !== 'ready') return null
  const running = tests.data.tests.filter((one) => one.ended_at === null)
  return (
    <ul className="flex flex-wrap gap-2 py-1" aria-label="Tests under way">
      {running.map((one) => (
        <li key={one.id} className="min-w-0 flex-1 basis-64">
          <button
            type="button"
            data-running-test={one.key}
            onClick={() => onOpen(one.key)}
            className="flex min-h-11 w-full items-center gap-3 rounded border-2 border-ink bg-sheet px-3 text-left leading-tight"
          >
            <span className="text-[1.15rem] font-bold tabular-nums">{stood(one, now)}</span>
            <span className="min-w-0">
              <strong>{one.label.split(':')[0]}.</strong>{' '}
              {one.hazards.length > 0 && visit.assessment?.decision.key !== 'stop_it' ? (
                <b className="text-alarm">{one.hazards[0]}</b>
              ) : (
                one.headline
              )}
            </span>
          </button>
        </li>
      ))}
    </ul>
  )
}
