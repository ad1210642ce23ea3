import { useEffect, useRef } from 'react'
import type { Standing } from '../../../api/types'
import { clockTime } from '../../../lib/format'
import { rings } from '../../../lib/rings'
import { usePreferences } from '../../../state/preferences'
import { useSecondsTo } from '../../../state/secondsTo'

type Props = { visit: Standing; onRead: () => void }

/** The wait after a dose or a change, as an arc to an absolute time; at its end, “Read now”. */
export function Wait({ visit, onRead }: Props) {
  const until = visit.state === 'closed' ? null : (visit.assessment?.decision.ready_at ?? null)
  return until === null ? null : <Arc until={until} onRead={onRead} />
}

/** A wait over this long is drawn as a full circle until it is shorter. */
const WHOLE_S = 15 * 60
const R = 34

function Arc({ until, onRead }: { until: string; onRead: () => void }) {
  const left = useSecondsTo(until)
  const { sound } = usePreferences()
  const waited = useRef(left > 0)
  useEffect(() => {
    if (left > 0) waited.current = true
    else if (waited.current) {
      waited.current = false
      rings(sound)
    }
  }, [left, sound])
  const share = Math.min(left / WHOLE_S, 1)
  const length = 2 * Math.PI * R
  return (
    <div
      data-wait={left > 0 ? until : 'over'}
      className="absolute bottom-10 left-1 grid h-24 w-24 place-items-center rounded-full bg-ground/90"
    >
      <svg viewBox="0 0 96 96" aria-hidden className="absolute inset-0 -rotate-90">
        <circle cx="48" cy="48" r={R + 6} fill="none" stroke="var(--rule)" strokeWidth="5" />
        <circle
          cx="48"
          cy="48"
          r={R + 6}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="5"
          strokeDasharray={`${(length * 1.176 * share).toFixed(1)} 999`}
        />
      </svg>
      {left > 0 ? (
        <p className="text-center text-[1.25rem] leading-none font-bold" role="timer">
          {Math.floor(left / 60)}:{String(left % 60).padStart(2, '0')}
          <span className="mt-1 block text-[0.83rem] font-normal text-soft">
            {clockTime(until)}
          </span>
        </p>
      ) : (
        <button
          type="button"
          onClick={onRead}
          className="h-20 w-20 rounded-full leading-tight font-bold"
        >
          Read now
        </button>
      )}
    </div>
  )
}
