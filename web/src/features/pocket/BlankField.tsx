import type { Blank, Units } from '../../api/types'
import { fillBlank, type Entry } from '../../state/pocket'

type Props = {
  blank: Blank
  entry: Entry | undefined
  taken: number | undefined
  problem: string | undefined
  units: Units
  id: string
}

/** A blank to fill in: its name and unit in the box with the number, nothing else. */
export function BlankField({ blank, entry, taken, problem, units, id }: Props) {
  const label = blank.unit === '' ? blank.label : `${blank.label}, ${blank.unit}`
  if (blank.choices.length > 0) {
    return (
      <label className="relative block" htmlFor={id}>
        <span className="absolute top-1 left-2 text-[0.83rem] text-soft">{blank.label}</span>
        <select
          id={id}
          value={entry?.text ?? blank.usual}
          onChange={(event) => fillBlank(blank.key, event.target.value, units)}
          className="h-14 w-full appearance-none truncate rounded border border-rule-strong bg-ground px-2 pt-5 text-[1rem] font-bold"
        >
          {blank.usual === '' && <option value="">—</option>}
          {blank.choices.map((choice) => (
            <option key={choice.key} value={choice.key}>
              {choice.label}
            </option>
          ))}
        </select>
      </label>
    )
  }
  return (
    <div className="group relative min-w-0">
      <label className="relative block" htmlFor={id}>
        <span className="pointer-events-none absolute top-1 left-2 max-w-[94%] truncate text-[0.83rem] text-soft">
          {blank.label}
        </span>
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          aria-label={label}
          aria-invalid={problem !== undefined}
          value={shownText(entry, taken, units)}
          placeholder={blank.usual}
          onChange={(event) => fillBlank(blank.key, event.target.value, units)}
          onKeyDown={toNextBlank}
          className="h-14 w-full rounded border border-rule-strong bg-ground pt-5 pr-14 pl-2 text-[1.15rem] font-bold placeholder:font-normal placeholder:text-soft aria-invalid:border-2 aria-invalid:border-alarm"
        />
        <span className="pointer-events-none absolute right-2 bottom-1.5 text-[0.83rem] text-soft">
          {blank.unit}
        </span>
      </label>
      {blank.low < 0 && (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Change the sign of ${blank.label}`}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => fillBlank(blank.key, otherSign(entry?.text ?? ''), units)}
          className="absolute top-0 right-0 hidden min-h-11 min-w-11 items-center justify-center text-[1.2rem] pointer-coarse:group-focus-within:flex"
        >
          ±
        </button>
      )}
      {problem !== undefined && (
        <p role="alert" className="mt-1 border-l-4 border-alarm pl-2 text-[0.88rem] leading-snug">
          {problem}
        </p>
      )}
    </div>
  )
}

/** As typed while it is read in the units it was typed in; else as the core converted it. */
function shownText(entry: Entry | undefined, taken: number | undefined, units: Units): string {
  if (entry === undefined) return ''
  if (entry.units === units || taken === undefined) return entry.text
  return String(Number(taken.toPrecision(4)))
}

/** Number pads of phones have no minus. */
const otherSign = (text: string) => (/^[-−]/.test(text) ? text.slice(1) : `-${text}`)

/** Enter goes to the next blank, as on a keypad. */
function toNextBlank(event: React.KeyboardEvent<HTMLInputElement>) {
  if (event.key === 'Escape') event.currentTarget.blur()
  if (event.key !== 'Enter') return
  event.preventDefault()
  const board = event.currentTarget.closest('[data-pocket]')
  const blanks = [...(board?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const next = blanks[blanks.indexOf(event.currentTarget) + 1]
  next?.focus()
  next?.select()
}
