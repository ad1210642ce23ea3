import { useState } from 'react'
import { api, got } from '../../../api/client'
import { queryClient } from '../../../api/queries'
import type { NewLink, Order, Visit } from '../../../api/types'
import { useAsking } from '../../../lib/asking'
import { shortTime } from '../../../lib/format'
import { newId } from '../../../lib/ids'
import { copyText } from '../../../lib/clipboard'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { serverDate } from '../../../state/clock'
import { Qr } from '../../../ui/Qr'

type Props = { visit: Visit; order: Order }

/** A second pair of eyes: a link that only shows this visit, ends by itself, and can be ended. */
export function Links({ visit, order }: Props) {
  const [made, setMade] = useState<NewLink | null>(null)
  const { said, ask: tell } = useAsking()
  const ask = (run: () => Promise<unknown>) =>
    tell(async () => {
      await run()
      await queryClient.invalidateQueries({ queryKey: ['visit', visit.id] })
    })
  const invite = () =>
    ask(async () => {
      const params = { path: { visit_id: visit.id } }
      setMade(await got(api.POST('/api/visits/{visit_id}/links', { params, body: {} })))
    })
  const revoke = (id: string) =>
    ask(async () => {
      const params = { path: { visit_id: visit.id, link_id: id } }
      const body = { id: newId() }
      await api.POST('/api/visits/{visit_id}/links/{link_id}/revocations', { params, body })
      if (made?.id === id) setMade(null)
    })
  return (
    <div>
      <Button onClick={() => void invite()}>A link for a second pair of eyes</Button>
      <p className="mt-1 text-[0.92rem] text-soft">
        Somebody on the same network sees this visit, live, and can leave a note. Nothing else opens
        to them.
      </p>
      {made && made.warning !== '' && <Care word="Not reachable yet.">{made.warning}</Care>}
      {made && <Handed made={made} />}
      <ul>
        {order.links.map((link) => (
          <li key={link.id} className="flex items-center gap-3">
            <span className="flex-1">Open until {shortTime(link.expires_at, serverDate())}</span>
            <Button tight onClick={() => void revoke(link.id)}>
              End it now
            </Button>
          </li>
        ))}
      </ul>
      {said !== '' && <p role="alert">{said}</p>}
    </div>
  )
}

/** The link to hand on: to copy, or to point a camera at. */
function Handed({ made }: { made: NewLink }) {
  const [copied, setCopied] = useState('')
  const link = made.address || `${window.location.origin}${made.path}`
  return (
    <div className="mt-2 flex flex-wrap items-start gap-3">
      {made.qr && <Qr of={made.qr} label="The link as a QR code" />}
      <div className="min-w-0 flex-1 basis-48">
        <input
          readOnly
          aria-label="The link"
          value={link}
          onFocus={(event) => event.target.select()}
          className="h-11 w-full rounded border border-rule-strong bg-ground px-2 font-mono text-[0.85rem]"
        />
        <Button
          className="mt-2"
          onClick={() => {
            void copyText(link).then((done) => setCopied(done ? 'Copied.' : 'Select it and copy.'))
          }}
        >
          Copy the link
        </Button>
        <p role="status">{copied}</p>
      </div>
    </div>
  )
}
