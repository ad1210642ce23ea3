import { useVocabulary } from '../../api/queries'
import type { DrawingUnit } from '../../api/types'

type Props = {
  label: string
  value: number | null
  onChange: (value: number | null) => void
  unit?: DrawingUnit | undefined
}

/** A number of a drawing: empty is none. What is typed in a unit is kept in the drawing’s own. */
export function Cell({ label, value, onChange, unit }: Props) {
  const core = unit?.in_core ?? 1
  const shown = value === null ? '' : Number((value / core).toFixed(2))
  return (
    <input
      key={`${unit?.unit}`}
      aria-label={unit ? `${label}, ${unit.unit}` : label}
      type="number"
      step="any"
      defaultValue={shown}
      onChange={(event) => {
        const typed = event.target.value.trim()
        onChange(typed === '' ? null : Number(typed) * core)
      }}
      className="h-11 w-18 rounded border border-rule-strong bg-ground px-1 text-ink tabular-nums"
    />
  )
}

/** What a drawing’s lengths, sizes and charges per length are typed in. */
export function useDrawingUnits(): Partial<Record<'length' | 'size' | 'per_length', DrawingUnit>> {
  const vocabulary = useVocabulary()
  return vocabulary.status === 'ready' ? vocabulary.data.drawing_units : {}
}
