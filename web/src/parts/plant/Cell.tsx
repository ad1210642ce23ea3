type Props = { label: string; value: number | null; onChange: (value: number | null) => void }

/** A number of a drawing: empty is none. */
export function Cell({ label, value, onChange }: Props) {
  return (
    <input
      aria-label={label}
      type="number"
      step="any"
      defaultValue={value ?? ''}
      onBlur={(event) => {
        const typed = event.target.value.trim()
        onChange(typed === '' ? null : Number(typed))
      }}
      className="h-11 w-16 rounded border border-rule-strong bg-ground px-1 tabular-nums"
    />
  )
}
