import { useEffect, useState } from 'react'
import { api, got } from '../../../api/client'
import type { ZoneProgress } from '../../../api/types'
import { Button } from '../../../ui/Button'

type Props = { visitId: string; logId: string }
const ASKED_EVERY_MS = 300

/** How far the reading of a log is, and a way to stop it. */
export function Reading({ visitId, logId }: Props) {
  const [of, setOf] = useState<ZoneProgress | null>(null)
  const params = { path: { visit_id: visitId, log_id: logId } }
  useEffect(() => {
    const path = { visit_id: visitId, log_id: logId }
    const ask = () =>
      got(api.GET('/api/visits/{visit_id}/zones/logs/{log_id}', { params: { path } })).then(
        setOf,
        () => setOf(null),
      )
    const timer = setInterval(() => void ask(), ASKED_EVERY_MS)
    return () => clearInterval(timer)
  }, [visitId, logId])
  const share = of?.is_read ? of.lines / Math.max(of.about, 1) : null
  return (
    <div className="flex flex-col gap-2" data-reading>
      <p role="status">
        {share === null
          ? 'Reading it…'
          : `Reading: ${of?.lines.toLocaleString()} of about ${of?.about.toLocaleString()} lines.`}
      </p>
      <progress
        max={1}
        value={share ?? 0}
        aria-label="How far it is read"
        className="h-4 w-full accent-[var(--accent)]"
      />
      <Button
        className="self-start"
        onClick={() =>
          void api.POST('/api/visits/{visit_id}/zones/logs/{log_id}/cancel', { params })
        }
      >
        Cancel
      </Button>
    </div>
  )
}
