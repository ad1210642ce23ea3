import { useState } from 'react'
import type { Cylinder, Units } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { newId } from '../../lib/ids'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'

type Props = { cylinder: Cylinder; units: Units }

/** A pound: further off the book than that, it is asked whether it is this cylinder. */
const KNOCKED: Record<Units, number> = { ip: 1, si: 0.45, si_bar: 0.45 }

/** One cylinder: what is in it as a level, its last weight, and the scale. */
export function CylinderCard({ cylinder, units }: Props) {
  const [text, setText] = useState('')
  const [sure, setSure] = useState(false)
  const gross = Number(text.trim().replace(',', '.'))
  const isWeight = text.trim() !== '' && gross >= cylinder.tare - 0.1
  const off = isWeight ? gross - cylinder.gross : 0
  const isFar = Math.abs(off) > KNOCKED[units]
  const last = cylinder.weighings[0]
  return (
    <li data-cylinder={cylinder.id} className="flex gap-4 border-t-2 border-ink pt-2">
      <Level cylinder={cylinder} />
      <div className="min-w-0 flex-1">
        <h2 className="leading-snug font-bold break-words">{cylinder.name}</h2>
        <p>
          {cylinder.refrigerant}
          {cylinder.kind === 'recovery' && ', recovery'}
        </p>
        <p className="text-[1.75rem] leading-tight font-bold tabular-nums">
          {formatNumber(cylinder.holds, 2)}{' '}
          <span className="text-base font-normal">{cylinder.unit} in it</span>
        </p>
        <p className="text-[0.92rem] text-soft">
          {formatNumber(cylinder.gross, 2)} {cylinder.unit} on the scale
          {last && `, weighed ${new Date(last.weighed_at).toLocaleDateString()}`}
          {cylinder.limit !== null &&
            `. May hold ${formatNumber(cylinder.limit, 1)} ${cylinder.unit}: 80 %`}
        </p>
        {cylinder.loss && (
          <Care
            word={`Lost ${formatNumber(Math.abs(cylinder.loss.change), 1)} ${cylinder.loss.unit}.`}
          >
            Found missing {new Date(cylinder.loss.happened_at).toLocaleDateString()}. Cap, valve or
            packing: find which before it is used.
          </Care>
        )}
        <form
          className="mt-2 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (!isWeight || (isFar && !sure)) return
            const id = newId()
            const path = `/cylinders/${cylinder.id}/weighings`
            post({ id, method: 'POST', path, body: { id, gross, sure }, units })
            setText('')
            setSure(false)
          }}
        >
          <label className="flex items-center gap-2">
            <span className="sr-only">
              Weight of {cylinder.name} now, {cylinder.unit}
            </span>
            <input
              inputMode="decimal"
              value={text}
              placeholder={formatNumber(cylinder.gross, 2)}
              onChange={(event) => setText(event.target.value)}
              className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 tabular-nums placeholder:text-soft"
            />
            {cylinder.unit}
          </label>
          <Button type="submit" disabled={!isWeight || (isFar && !sure)}>
            Weigh it
          </Button>
          {isFar && (
            <label className="flex min-h-11 basis-full items-center gap-3 border-l-4 border-alarm pl-2">
              <input
                type="checkbox"
                className="h-6 w-6"
                checked={sure}
                onChange={(event) => setSure(event.target.checked)}
              />
              {formatNumber(Math.abs(off), 2)} {cylinder.unit} {off < 0 ? 'under' : 'over'} the
              book. It is this cylinder, standing free and still.
            </label>
          )}
        </form>
      </div>
    </li>
  )
}

/** The level as a height; a recovery cylinder's limit is a line across. */
function Level({ cylinder }: { cylinder: Cylinder }) {
  const most = cylinder.limit === null ? fullest(cylinder) : cylinder.limit / 0.8
  const share = Math.min(cylinder.holds / most, 1)
  return (
    <svg viewBox="0 0 44 96" className="h-28 w-12 shrink-0" aria-hidden>
      <path
        d="M16 4H28V14C38 16 40 22 40 28V88Q40 92 36 92H8Q4 92 4 88V28C4 22 6 16 16 14Z"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.5"
      />
      <rect x="8" y={88 - 62 * share} width="28" height={62 * share} fill="var(--low)" />
      {cylinder.limit !== null && (
        <path d={`M2 ${88 - 62 * 0.8}H42`} stroke="var(--alarm)" strokeWidth="3" />
      )}
    </svg>
  )
}

/** What it held at its fullest, by its own book: now, or before any of what moved since. */
function fullest(cylinder: Cylinder): number {
  const heaviest = Math.max(cylinder.gross, ...cylinder.weighings.map((one) => one.gross))
  return Math.max(heaviest - cylinder.tare, 0.1)
}
