import { useState } from 'react'
import { useParams } from 'react-router'
import { api } from '../../api/client'
import { queryClient, useGuest } from '../../api/queries'
import type { Guest } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { clockTime, formatNumber, shortTime } from '../../lib/format'
import { newId } from '../../lib/ids'
import { OpensContext } from '../../state/opens'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { Notice } from '../../ui/Notice'
import { LoopStage } from './stage/LoopStage'
import { TargetMap } from './TargetMap'
import { serverDate } from '../../state/clock'

/** One visit through somebody else's eyes: live, read-only, with a note to leave. */
export function GuestScreen() {
  const { token = '' } = useParams()
  const guest = useGuest(token)
  return (
    <div className="mx-auto w-full max-w-5xl flex-1 px-4 py-4 md:px-6">
      <LoadState of={guest}>
        {(found) => (
          <OpensContext value={false}>
            <Seen token={token} found={found} />
          </OpensContext>
        )}
      </LoadState>
    </div>
  )
}

type Props = { token: string; found: Guest }

function Seen({ token, found }: Props) {
  const { visit } = found
  const { units } = usePreferences()
  const [text, setText] = useState('')
  const { said, say, ask } = useAsking()
  const leave = () =>
    ask(async () => {
      const body = { id: newId(), text }
      const params = { path: { token }, query: { units } }
      await api.POST('/api/guest/{token}/notes', { params, body })
      setText('')
      say('Left. It stands with the visit’s notes.')
      await queryClient.invalidateQueries({ queryKey: ['guest', token] })
    })
  const decision = visit.assessment?.decision
  const headline = decision?.headline ?? 'Nothing is read yet.'
  return (
    <>
      <p className="text-soft">
        You look on. The link ends {shortTime(found.expires_at, serverDate())}.
      </p>
      <h1 className="text-[1.4rem]">
        {visit.system.site_name}, {visit.system.name}
      </h1>
      <p className="text-soft">
        {visit.system.summary}
        {visit.complaint !== '' && <> · “{visit.complaint}”</>}
      </p>
      {visit.assessment?.hazards.map((hazard) => (
        <Notice key={hazard.key} word="Danger to the machine.">
          {hazard.message}
        </Notice>
      ))}
      <p
        data-decision={decision?.key}
        className="mt-3 border-l-8 border-accent pl-3 text-[1.6rem] leading-tight font-bold"
      >
        {headline}
      </p>
      {decision && <p className="mt-1 pl-5">{decision.reason}</p>}
      {decision?.dose && (
        <p className="mt-1 pl-5 font-bold">
          {decision.dose.amount < 0 ? 'Out' : 'In'}:{' '}
          {formatNumber(Math.abs(decision.dose.amount), 1)} {decision.dose.unit}
        </p>
      )}
      {decision?.ready_at && (
        <p className="mt-1 pl-5">Read again at {clockTime(decision.ready_at)}.</p>
      )}
      <div className="relative mt-3 h-[332px] sm:h-[26rem]">
        <LoopStage
          visitId={visit.id}
          stage={visit.stage}
          estimates={{}}
          instruments={[]}
          onProbe={() => undefined}
          onPlace={() => undefined}
        />
      </div>
      {visit.target_map.length > 0 && (
        <div className="relative mt-4 h-[332px] sm:h-[26rem]">
          <TargetMap layouts={visit.target_map} />
        </div>
      )}
      <section aria-label="Notes" className="mt-6">
        <Heading>Notes</Heading>
        <ul>
          {found.notes.map((note) => (
            <li key={note.id} className="border-b border-rule py-2">
              <p className="text-[0.9rem] text-soft">
                {note.subsystem_label}
                {note.written_from === 'office' && ', from the office'}
              </p>
              <p className="break-words whitespace-pre-wrap">{note.text}</p>
            </li>
          ))}
        </ul>
        <form
          className="mt-2 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (text.trim() !== '') void leave()
          }}
        >
          <input
            aria-label="A note for whoever is there"
            placeholder="A note for whoever is there"
            maxLength={4000}
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-11 min-w-0 flex-1 rounded border border-rule-strong bg-sheet px-2 placeholder:text-soft"
          />
          <Button type="submit" weight="do" disabled={text.trim() === ''}>
            Leave it
          </Button>
        </form>
        {said !== '' && <p role="status">{said}</p>}
      </section>
    </>
  )
}
