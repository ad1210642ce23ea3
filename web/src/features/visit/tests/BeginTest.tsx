import { useState } from 'react'
import type { TestKind, Units, Visit } from '../../../api/types'
import { numberIn } from '../../../lib/format'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Props = { visit: Visit; units: Units; kind: TestKind; onBegun: () => void }

/** How a test is done, what it asks, its cautions; and its beginning. */
export function BeginTest({ visit, units, kind, onBegun }: Props) {
  const [filled, setFilled] = useState<Record<string, string>>({})
  const settings: Record<string, string | number> = {}
  for (const blank of kind.blanks) {
    const text = filled[blank.key] ?? ''
    const value = blank.choices.length > 0 ? text : numberIn(text)
    if (value !== null && value !== '') settings[blank.key] = value
  }
  const isWhole = kind.blanks.every((blank) => !blank.is_needed || blank.key in settings)
  const set = (key: string, value: string) =>
    setFilled({ ...filled, [key]: filled[key] === value ? '' : value })
  const begin = () => {
    writeOn(visit.id, 'tests', { test: kind.key, settings }, units)
    onBegun()
  }
  return (
    <form
      aria-label={kind.label}
      onSubmit={(event) => {
        event.preventDefault()
        if (isWhole) begin()
      }}
    >
      <p>{kind.why}</p>
      {kind.cautions.map((line) => (
        <Care key={line} word="Care:">
          {line}
        </Care>
      ))}
      <Button
        type="submit"
        className="my-3 w-full border-2 !border-ink font-bold"
        disabled={!isWhole}
      >
        Begin
      </Button>
      <ol className="list-decimal pl-5 text-[0.95rem] leading-snug">
        {kind.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      {kind.blanks.map((blank) => (
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
                    onClick={() => set(blank.key, key)}
                    className="min-h-11 rounded border border-rule-strong bg-sheet px-3 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-ground"
                  >
                    {label}
                  </button>
                ))}
              </div>
            </fieldset>
          ) : (
            <label className="flex flex-wrap items-center gap-2">
              <span className="w-44 text-[0.92rem] text-soft">
                {blank.label}
                {!blank.is_needed && ', if known'}
              </span>
              <input
                inputMode="decimal"
                value={filled[blank.key] ?? ''}
                onChange={(event) => setFilled({ ...filled, [blank.key]: event.target.value })}
                className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 tabular-nums"
              />
              {blank.unit}
            </label>
          )}
        </div>
      ))}
    </form>
  )
}
