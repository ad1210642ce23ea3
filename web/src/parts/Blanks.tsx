import type { Blank, Filled } from '../state/filled'

/** A form's blanks: choices as buttons (pressed again, taken back), numbers with their units. */
export function Blanks({ blanks, filled }: { blanks: readonly Blank[]; filled: Filled }) {
  const { typed, set } = filled
  return blanks.map((blank) => (
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
                aria-pressed={typed[blank.key] === key}
                onClick={() => set(blank.key, typed[blank.key] === key ? '' : key)}
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
            inputMode={blank.is_words ? 'text' : 'decimal'}
            maxLength={blank.is_words ? 120 : 20}
            value={typed[blank.key] ?? ''}
            onChange={(event) => set(blank.key, event.target.value)}
            className={`h-11 rounded border border-rule-strong bg-ground px-2 ${blank.is_words ? 'min-w-0 flex-1 basis-48' : 'w-24 tabular-nums'}`}
          />
          {blank.unit}
        </label>
      )}
    </div>
  ))
}
