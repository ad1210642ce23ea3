import { useState } from 'react'
import { api, send } from '../../api/client'
import { queryClient, useBundles } from '../../api/queries'
import type { TakenIn } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { shortTime } from '../../lib/format'
import { serverDate } from '../../state/clock'
import { Button } from '../../ui/Button'
import { FilePick } from '../../ui/FilePick'

type Looked = { file: File; found: TakenIn }

/** A bundle from another Nudge: looked at, then taken in whole; and taken out again. */
export function TakeIn() {
  const [looked, setLooked] = useState<Looked | null>(null)
  const { said, say, busy, ask } = useAsking()
  const look = (file: File) =>
    ask(async () => {
      setLooked(null)
      setLooked({ file, found: await send<TakenIn>('POST', '/bundles/looks', file) })
    })
  const take = (file: File) =>
    ask(async () => {
      const found = await send<TakenIn>('POST', '/bundles', file)
      setLooked(null)
      say(`Taken in: ${inWords(found)}`)
      await queryClient.invalidateQueries()
    })
  return (
    <div className="mt-6">
      <FilePick
        label={busy ? 'Checking it, page by page…' : 'Take in a file from another Nudge'}
        accept="application/json,.json"
        onPick={(file) => void look(file)}
      />
      {looked && (
        <div
          role="group"
          aria-label="What it brings"
          className="mt-3 border-l-8 border-accent pl-3"
        >
          <p className="break-words">
            <strong>{looked.file.name}</strong> brings {inWords(looked.found)}
          </p>
          {looked.found.reasons.length > 0 && (
            <>
              <p className="mt-1">
                <strong>{looked.found.reasons.length} things do not fit</strong>, so none of it is
                taken in:
              </p>
              <ul className="max-h-48 list-disc overflow-y-auto pl-5 text-[0.95rem]">
                {looked.found.reasons.map((reason, n) => (
                  <li key={n} className="break-words">
                    {reason}
                  </li>
                ))}
              </ul>
            </>
          )}
          <div className="mt-2 flex gap-2">
            {looked.found.reasons.length === 0 && (
              <Button weight="do" disabled={busy !== ''} onClick={() => void take(looked.file)}>
                Take it in
              </Button>
            )}
            <Button onClick={() => setLooked(null)}>Leave it</Button>
          </div>
        </div>
      )}
      {said !== '' && (
        <p role="status" className="mt-2 border-l-4 border-accent pl-2 leading-snug break-words">
          {said}
        </p>
      )}
      <Taken busy={busy !== ''} ask={(what) => void ask(what)} />
    </div>
  )
}

type TakenProps = { busy: boolean; ask: (what: () => Promise<void>) => void }

/** What was taken in before, and the way back. */
function Taken({ busy, ask }: TakenProps) {
  const bundles = useBundles()
  const standing = bundles.status === 'ready' ? bundles.data.filter((one) => !one.is_out) : []
  if (standing.length === 0) return null
  const takeOut = (id: string) =>
    ask(async () => {
      const params = { path: { taken_id: id } }
      await api.POST('/api/bundles/{taken_id}/removals', { params })
      await queryClient.invalidateQueries()
    })
  return (
    <details className="mt-2">
      <summary className="flex min-h-11 cursor-pointer items-center underline decoration-rule-strong underline-offset-4">
        Taken in before: {standing.length}
      </summary>
      <ul>
        {standing.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule"
          >
            <span>
              {shortTime(one.taken_at, serverDate())}: {one.said}
            </span>
            <Button tight className="px-3" disabled={busy} onClick={() => takeOut(one.id)}>
              Take it out again
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}

function inWords({ systems, visits, already_here: here }: TakenIn): string {
  return `${systems} systems, ${visits} visits; ${here} visits are here already.`
}
