import { useWorkshop } from '../../api/queries'
import type { CardLine } from '../../api/types'
import { patch } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { useTypedField } from '../../state/typedField'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { Copies } from './Copies'
import { Devices } from './Devices'
import { Instruments } from './Instruments'

/** The workshop itself: what its papers say of it. */
export function WorkshopScreen() {
  const workshop = useWorkshop()
  return (
    <div className="mx-auto w-full max-w-3xl flex-1 px-4 py-5 md:px-6">
      <h1 className="text-[1.4rem] font-bold">Workshop</h1>
      <section aria-label="Card" className="mt-4">
        <Heading aside="printed on papers">Who to call</Heading>
        <LoadState of={workshop}>
          {({ card }) => (
            <div className="mt-3 space-y-4">
              {card.map((line) => (
                <Line key={line.key} line={line} />
              ))}
            </div>
          )}
        </LoadState>
      </section>
      <Instruments />
      <Devices />
      <Copies />
    </div>
  )
}

/** A line of the card, sent by itself once typing pauses. */
function Line({ line }: { line: CardLine }) {
  const { units } = usePreferences()
  const field = useTypedField({
    draft: `workshop:${line.key}`,
    stored: line.text,
    about: (message) => message.path === '/workshop' && line.key in message.body,
    read: (text) => text.trim(),
    send: (text) => patch('/api/workshop', { [line.key]: text }, { units }),
  })
  return (
    <label className="block">
      <span className="font-bold">{line.label}</span>
      <span className="block text-[0.92rem] text-soft">{line.reason}</span>
      <input
        value={field.text}
        maxLength={line.longest}
        aria-invalid={field.problem !== null}
        onChange={(event) => field.type(event.target.value)}
        onBlur={field.settle}
        className="mt-1 h-12 w-full rounded border border-rule-strong bg-sheet px-3"
      />
      {field.problem !== null && (
        <span role="alert" className="block border-l-4 border-alarm pl-2">
          {field.problem}
        </span>
      )}
    </label>
  )
}
