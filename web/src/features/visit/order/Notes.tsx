import { useState } from 'react'
import type { Order, Units, Visit } from '../../../api/types'
import { shortTime } from '../../../lib/format'
import { useDraft } from '../../../state/drafts'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Heading } from '../../../ui/Heading'
import { PartSelect } from './PartSelect'
import { serverDate } from '../../../state/clock'

type Props = { visit: Visit; units: Units; order: Order }

/** Notes by part of the system; what somebody left through a link stands among them. */
export function Notes({ visit, units, order }: Props) {
  const [draft, setDraft] = useDraft(`note:${visit.id}`)
  const [part, setPart] = useState('site')
  const text = draft ?? ''
  const isOpen = visit.state !== 'closed'
  if (!isOpen && order.notes.length === 0) return null
  return (
    <section aria-label="Notes" className="mt-5">
      <Heading aside={String(order.notes.length)}>Notes</Heading>
      <ul>
        {order.notes.map((note) => (
          <li key={note.id} data-note={note.written_from} className="border-b border-rule py-2">
            <p className="text-[0.9rem] text-soft">
              {note.subsystem_label}
              {note.written_from === 'office' && ', from the office'} ·{' '}
              {shortTime(note.written_at, serverDate())}
            </p>
            <div className="flex items-start gap-2">
              <p className="min-w-0 flex-1 break-words whitespace-pre-wrap">{note.text}</p>
              {isOpen && (
                <Button
                  tight
                  weight="quiet"
                  aria-label={`Take back the note: ${note.text.slice(0, 40)}`}
                  onClick={() =>
                    writeOn(
                      visit.id,
                      'notes',
                      { subsystem: note.subsystem, text: '', corrects: note.id },
                      units,
                    )
                  }
                >
                  Take back
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
      {isOpen && (
        <form
          className="mt-2 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (text.trim() === '') return
            writeOn(visit.id, 'notes', { subsystem: part, text }, units)
            setDraft(undefined)
          }}
        >
          <PartSelect
            label="Which part the note is about"
            of={order}
            value={part}
            onChange={setPart}
          />
          <input
            aria-label="A note"
            placeholder="What the next one should know"
            maxLength={4000}
            value={text}
            onChange={(event) => setDraft(event.target.value)}
            className="h-11 min-w-0 flex-1 basis-44 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
          />
          <Button type="submit" disabled={text.trim() === ''}>
            Note it
          </Button>
        </form>
      )}
    </section>
  )
}
