import type { Circuit } from '../../../api/types'
import { formatNumber } from '../../../lib/format'

/** The sum on the scale: down to the sheet first, then to the plate's subcooling and its slot. */
export function LiveSum({ sum }: { sum: NonNullable<Circuit['live_sum']> }) {
  const isIn = sum.share >= 0.97
  return (
    <div className="mt-2" data-live-sum={sum.left}>
      <p className="flex flex-wrap items-baseline justify-between gap-x-3">
        <span>
          <strong className="text-[1.5rem] tabular-nums">{sum.left_text}</strong> to go
        </span>
        <span className="text-soft tabular-nums">{sum.in_text} in</span>
      </p>
      <svg
        viewBox="0 0 340 26"
        className="w-full max-w-md"
        role="img"
        aria-label={`${sum.in_text} of the sheet is in, ${sum.left_text} to go`}
      >
        <rect
          x="1"
          y="5"
          width="338"
          height="16"
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
        <rect x="1" y="5" width={Math.min(sum.share, 1) * 338} height="16" fill="var(--low)" />
        <line x1="338" y1="0" x2="338" y2="26" stroke="var(--ink)" strokeWidth="3" />
      </svg>
      {isIn && sum.target !== null && <Slot sum={sum} target={sum.target} />}
    </div>
  )
}

const SPAN = 10

/** Subcooling against the plate's, in its narrow slot. */
function Slot({ sum, target }: { sum: NonNullable<Circuit['live_sum']>; target: number }) {
  const at = (value: number) => 170 + Math.max(-SPAN, Math.min(SPAN, value - target)) * (160 / SPAN)
  return (
    <>
      <p className="mt-1">
        Then subcooling:{' '}
        <strong className="tabular-nums">
          {sum.subcooling === null ? '—' : formatNumber(sum.subcooling, 1)}
        </strong>{' '}
        to {formatNumber(target, 1)} ± {formatNumber(sum.slot, 1)} {sum.degrees}
      </p>
      <svg
        viewBox="0 0 340 30"
        className="w-full max-w-md"
        role="img"
        aria-label={`Subcooling against the plate’s ${formatNumber(target, 1)} ${sum.degrees}`}
        data-slot={sum.subcooling ?? ''}
      >
        <line x1="4" y1="15" x2="336" y2="15" stroke="var(--rule-strong)" strokeWidth="1.5" />
        <rect
          x={at(target - sum.slot)}
          y="4"
          width={at(target + sum.slot) - at(target - sum.slot)}
          height="22"
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2.5"
        />
        {sum.subcooling !== null && (
          <circle cx={at(sum.subcooling)} cy="15" r="8" fill="var(--high)" />
        )}
      </svg>
    </>
  )
}
