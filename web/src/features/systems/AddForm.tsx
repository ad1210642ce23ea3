import { useId, useState } from 'react'
import { Button } from '../../ui/Button'

type Props = {
  label: string
  choices?: { label: string; options: (readonly [value: string, label: string])[] }[]
  onAdd: (name: string, chosen: string[]) => void
  onCancel: () => void
}

/** A name, sometimes with choices beside it, added with Enter. */
export function AddForm({ label, choices = [], onAdd, onCancel }: Props) {
  const [name, setName] = useState('')
  const [chosen, setChosen] = useState<string[]>([])
  const id = useId()
  const ready = name.trim() !== '' && choices.every((_, n) => (chosen[n] ?? '') !== '')
  return (
    <form
      className="my-2 flex flex-wrap items-end gap-2 border-l-8 border-accent pl-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (ready) onAdd(name.trim(), chosen)
      }}
    >
      <div className="min-w-0 flex-1 basis-44">
        <label className="block text-[0.9rem] text-soft" htmlFor={id}>
          {label}
        </label>
        <input
          id={id}
          autoFocus
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onCancel()}
          className="h-11 w-full rounded border border-rule-strong bg-sheet px-2"
        />
      </div>
      {choices.map((choice, n) => (
        <div key={choice.label} className="min-w-36">
          <label className="block text-[0.9rem] text-soft" htmlFor={`${id}-${n}`}>
            {choice.label}
          </label>
          <select
            id={`${id}-${n}`}
            value={chosen[n] ?? ''}
            onChange={(event) =>
              setChosen(choices.map((_, m) => (m === n ? event.target.value : (chosen[m] ?? ''))))
            }
            className="h-11 w-full rounded border border-rule-strong bg-sheet px-2"
          >
            <option value="">Pick one</option>
            {choice.options.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </div>
      ))}
      <Button type="submit" weight="do" disabled={!ready}>
        Add
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </form>
  )
}
