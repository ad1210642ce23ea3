import { useId, useState } from 'react'
import { Button } from '../../ui/Button'

type Props = {
  label: string
  choices?: string[]
  choiceLabel?: string
  onAdd: (name: string, choice: string) => void
  onCancel: () => void
}

/** A name, sometimes with a choice beside it, added with Enter. */
export function AddForm({ label, choices, choiceLabel, onAdd, onCancel }: Props) {
  const [name, setName] = useState('')
  const [choice, setChoice] = useState('')
  const id = useId()
  const ready = name.trim() !== '' && (choices === undefined || choice !== '')
  return (
    <form
      className="my-2 flex flex-wrap items-end gap-2 border-l-8 border-accent pl-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (ready) onAdd(name.trim(), choice)
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
      {choices !== undefined && (
        <div className="min-w-36">
          <label className="block text-[0.9rem] text-soft" htmlFor={`${id}-choice`}>
            {choiceLabel}
          </label>
          <select
            id={`${id}-choice`}
            value={choice}
            onChange={(event) => setChoice(event.target.value)}
            className="h-11 w-full rounded border border-rule-strong bg-sheet px-2"
          >
            <option value="">Pick one</option>
            {choices.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </div>
      )}
      <Button type="submit" weight="do" disabled={!ready}>
        Add
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </form>
  )
}
