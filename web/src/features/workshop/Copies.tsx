import { useState } from 'react'
import { send } from '../../api/client'
import { queryClient, useCopies } from '../../api/queries'
import type { KeptCopy } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { shortTime } from '../../lib/format'
import { serverDate } from '../../state/clock'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { FilePick } from '../../ui/FilePick'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'

/** All of it, down and up; and the copies this machine made by itself. */
export function Copies() {
  const copies = useCopies()
  const [chosen, setChosen] = useState<File | null>(null)
  const { said, say, busy, ask } = useAsking()
  const putInPlace = async (file: File) => {
    await ask(async () => {
      await send<KeptCopy[]>('PUT', '/workshop/all', file)
      say(`${file.name} is in place. What was here is among the copies below.`)
      await queryClient.invalidateQueries()
    })
    setChosen(null)
  }
  return (
    <section aria-label="Copies" className="mt-8">
      <Heading aside="a copy a day is made by itself">All of it</Heading>
      <p className="mt-2">
        One file holds every site, visit, reading and picture. Keep one somewhere else as well: a
        copy on the same disk is gone with the disk.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <a
          href="/api/workshop/all"
          download
          className="inline-flex min-h-11 items-center rounded border border-rule-strong bg-sheet px-4"
        >
          Take a copy of all of it
        </a>
        <FilePick
          label={busy ? 'Reading it…' : 'Put a copy in place'}
          accept=".sqlite3,application/vnd.sqlite3"
          onPick={setChosen}
        />
      </div>
      {chosen && (
        <div className="mt-3 border-l-8 border-accent pl-3" role="group" aria-label="Put in place">
          <Care word="Everything here is replaced">
            by what {chosen.name} holds. What is here now is set aside as a copy first.
          </Care>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button weight="do" disabled={busy !== ''} onClick={() => void putInPlace(chosen)}>
              Replace everything
            </Button>
            <Button onClick={() => setChosen(null)}>Leave it</Button>
          </div>
        </div>
      )}
      {said !== '' && (
        <p role="status" className="mt-2 border-l-4 border-ink pl-2 leading-snug break-words">
          {said}
        </p>
      )}
      <LoadState of={copies}>
        {(found) =>
          found.length === 0 ? (
            <p className="mt-3 text-soft">No copy yet. The first is made within ten minutes.</p>
          ) : (
            <ul className="mt-3 border-t border-rule">
              {found.map((one) => (
                <li
                  key={one.name}
                  className="flex flex-wrap justify-between gap-x-4 border-b border-rule py-2"
                >
                  <span className="break-all">{one.name}</span>
                  <span className="text-soft">
                    {shortTime(one.made_at, serverDate())}, {(one.bytes / 1e6).toFixed(1)} MB
                  </span>
                </li>
              ))}
            </ul>
          )
        }
      </LoadState>
    </section>
  )
}
