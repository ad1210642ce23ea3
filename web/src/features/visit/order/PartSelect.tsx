import type { Order } from '../../../api/types'

type Props = { label: string; of: Order; value: string; onChange: (part: string) => void }

/** Which part of the system something is about. */
export function PartSelect({ label, of, value, onChange }: Props) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="h-11 rounded border border-rule-strong bg-ground px-2"
    >
      {of.subsystems.map((one) => (
        <option key={one.key} value={one.key}>
          {one.label}
        </option>
      ))}
    </select>
  )
}
