import { useState } from 'react'
import { Button } from '../ui/Button'

type Props = {
  label: string
  placeholder: string
  /** The word on its button. */
  go: string
  className?: string
  onWhy: (reason: string) => void
}

/** A line that says why something is left out; the reason is printed. */
export function WhyForm({ label, placeholder, go, className = '', onWhy }: Props) {
  const [why, setWhy] = useState('')
  const isBlank = why.trim() === ''
  return (
    <form
      className={`flex flex-wrap gap-2 ${className}`}
      onSubmit={(event) => {
        event.preventDefault()
        if (!isBlank) onWhy(why)
      }}
    >
      <input
        autoFocus
        aria-label={label}
        placeholder={placeholder}
        maxLength={300}
        value={why}
        onChange={(event) => setWhy(event.target.value)}
        className="h-11 min-w-0 flex-1 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
      />
      <Button type="submit" disabled={isBlank}>
        {go}
      </Button>
    </form>
  )
}
