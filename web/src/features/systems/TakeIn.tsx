import { useState } from 'react'
import { send } from '../../api/client'
import { queryClient } from '../../api/queries'
import type { TakenIn } from '../../api/types'

/** A bundle from another Nudge: taken in whole, or refused with every reason. */
export function TakeIn() {
  const [said, setSaid] = useState('')
  const [busy, setBusy] = useState(false)
  const take = async (file: File | undefined) => {
    if (!file) return
    setBusy(true)
    try {
      const found = await send<TakenIn>('POST', '/bundles', file)
      setSaid(
        `Taken in: ${found.systems} systems, ${found.visits} visits. ` +
          `${found.already_here} visits were here already.`,
      )
      await queryClient.invalidateQueries()
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error))
    }
    setBusy(false)
  }
  return (
    <div className="mt-6">
      <label className="inline-flex min-h-11 cursor-pointer items-center rounded border border-rule-strong bg-sheet px-4 focus-within:outline-3">
        {busy ? 'Reading it…' : 'Take in a file from another Nudge'}
        <input
          type="file"
          accept="application/json,.json"
          className="sr-only"
          onChange={(event) => {
            void take(event.target.files?.[0])
            event.target.value = ''
          }}
        />
      </label>
      {said !== '' && (
        <p role="status" className="mt-2 border-l-4 border-accent pl-2 leading-snug break-words">
          {said}
        </p>
      )}
    </div>
  )
}
