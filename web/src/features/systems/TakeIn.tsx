import { useState } from 'react'
import { send } from '../../api/client'
import { queryClient } from '../../api/queries'
import type { TakenIn } from '../../api/types'
import { FilePick } from '../../ui/FilePick'

/** A bundle from another Nudge: taken in whole, or refused with every reason. */
export function TakeIn() {
  const [said, setSaid] = useState('')
  const [busy, setBusy] = useState(false)
  const take = async (file: File) => {
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
      <FilePick
        label={busy ? 'Reading it…' : 'Take in a file from another Nudge'}
        accept="application/json,.json"
        onPick={(file) => void take(file)}
      />
      {said !== '' && (
        <p role="status" className="mt-2 border-l-4 border-accent pl-2 leading-snug break-words">
          {said}
        </p>
      )}
    </div>
  )
}
