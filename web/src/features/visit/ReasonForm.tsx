import { useState } from 'react'
import { Button } from '../../ui/Button'

type Props = {
  ask: string
  /** The better thing to do, which is the prominent one. */
  instead: string
  onReason: (reason: string) => void
  onClose: () => void
}

/** Judging where it should not be judged yet asks why; the reason is printed with the verdict. */
export function ReasonForm({ ask, instead, onReason, onClose }: Props) {
  const [reason, setReason] = useState('')
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        if (reason.trim() === '') return
        onReason(reason)
        onClose()
      }}
    >
      <label className="mt-3 block">
        {ask} (printed with the verdict)
        <input
          value={reason}
          autoFocus
          maxLength={300}
          onChange={(event) => setReason(event.target.value)}
          className="mt-1 h-11 w-full rounded border border-rule-strong bg-ground px-3"
        />
      </label>
      <div className="mt-4 flex gap-3">
        <Button weight="do" onClick={onClose}>
          {instead}
        </Button>
        <Button type="submit" disabled={reason.trim() === ''}>
          Judge it now
        </Button>
      </div>
    </form>
  )
}
