import { useState } from 'react'
import type { Check, Units, Visit } from '../../../api/types'
import { numberIn } from '../../../lib/format'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Props = { visit: Visit; units: Units; check: Check; onDone: () => void }

/** A check's own form: choices as buttons, numbers with their units. */
export function CheckForm({ visit, units, check, onDone }: Props) {
  const [filled, setFilled] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      Object.entries({ ...check.remembered, ...check.entries }).map(([k, v]) => [k, String(v)]),
    ),
  )
  const entries: Record<string, string | number> = {}
  for (const blank of check.blanks) {
    const text = filled[blank.key] ?? ''
    const value = blank.choices.length > 0 ? text : numberIn(text)
    if (value !== null && value !== '') entries[blank.key] = value
  }
  const isWhole =
    Object.keys(entries).length > 0 &&
    check.blanks.every((blank) => !blank.is_needed || blank.key in entries)
  const set = (key: string, value: string) => setFilled({ ...filled, [key]: value })
  return (
    <form
      aria-label={check.label}
      className="mt-1 border-l-2 border-rule-strong pl-4"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWhole) return
        writeOn(visit.id, 'checks', { key: check.key, entries }, units)
        onDone()
      }}
    >
      {check.caution !== '' && <Care word="Care:">{check.caution}</Care>}
      {check.blanks.map((blank) => (
        <div key={blank.key} className="mt-2">
          {blank.choices.length > 0 ? (
            <fieldset>
              <legend className="text-[0.92rem] text-soft">
                {blank.label}
                {!blank.is_needed && ', if known'}
              </legend>
              <div className="mt-1 flex flex-wrap gap-2">
                {blank.choices.map(([key, label]) => (
                  <button
                    key={key}
                    type="button"
                    aria-pressed={filled[blank.key] === key}
                    onClick={() => set(blank.key, filled[blank.key] === key ? '' : key)}
                    className="min-h-11 rounded border border-rule-strong bg-sheet px-3 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-ground"
                  >
                    {label}
                  </button>
                ))}
              </div>
            </fieldset>
          ) : (
            <label className="flex flex-wrap items-center gap-2">
              <span className="w-52 text-[0.92rem] text-soft">
                {blank.label}
                {!blank.is_needed && ', if known'}
              </span>
              <input
                inputMode="decimal"
                value={filled[blank.key] ?? ''}
                onChange={(event) => set(blank.key, event.target.value)}
                className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 tabular-nums"
              />
              {blank.unit}
            </label>
          )}
        </div>
      ))}
      <Button type="submit" className="mt-3" disabled={!isWhole}>
        Keep it
      </Button>
    </form>
  )
}
