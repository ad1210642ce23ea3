import { useState } from 'react'
import type { Instrument, Units, Visit, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'

type Props = {
  visit: Visit
  units: Units
  vocabulary: Vocabulary
  first: string
  onClose: () => void
  onImport: () => void
}

/** Every instrument on this visit: where it sits, what it shows, and what can be done with it. */
export function Instruments({ visit, units, vocabulary, first, onClose, onImport }: Props) {
  const all = visit.live?.instruments ?? []
  const [open, setOpen] = useState(first)
  const chosen = all.find((one) => one.key === open)
  const title = chosen ? `${chosen.label}, ${chosen.place}` : 'Instruments'
  return (
    <Panel open onClose={onClose} title={title}>
      {all.length === 0 && (
        <p className="mb-3">
          Nothing is connected. Send readings to this visit over the network, type them in the line
          below, or read a log file.
        </p>
      )}
      {chosen ? (
        <One
          key={chosen.key}
          of={chosen}
          all={all}
          visit={visit}
          units={units}
          vocabulary={vocabulary}
          onBack={() => setOpen('')}
        />
      ) : (
        <ul>
          {all.map((one) => (
            <li key={one.key} className="border-b border-rule">
              <button
                type="button"
                onClick={() => setOpen(one.key)}
                className="grid min-h-12 w-full grid-cols-[1fr_auto] items-center gap-3 text-left"
              >
                <span className="leading-tight">
                  <strong>{one.label}</strong>
                  <span className="block text-[0.9rem] text-soft">{where(one)}</span>
                </span>
                <span className="text-[1.1rem] font-bold">{shows(one)}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {!chosen && (
        <Button className="mt-4" keyHint="f" onClick={onImport}>
          Read a log file
        </Button>
      )}
    </Panel>
  )
}

function where(one: Instrument): string {
  const place = one.point === '' ? 'taken off' : one.place
  const old = one.seconds_old !== null && one.seconds_old > 30
  return [
    place,
    ...(one.counts || one.point === '' ? [] : ['not counted']),
    ...(one.source === 'simulated' ? ['simulated'] : []),
    ...(old ? [`last heard ${Math.round((one.seconds_old ?? 0) / 60)} min ago`] : []),
  ].join(' · ')
}

function shows(one: Instrument): string {
  return one.value === null ? 'nothing' : `${formatNumber(one.value, one.decimals)} ${one.unit}`
}

type OneProps = {
  of: Instrument
  all: Instrument[]
  visit: Visit
  units: Units
  vocabulary: Vocabulary
  onBack: () => void
}

/** One instrument: move it, zero it, swap it, leave it out. */
function One({ of, all, visit, units, vocabulary, onBack }: OneProps) {
  const label = (point: string) =>
    vocabulary.points.find((row) => row.key === point)?.label ?? point
  const twins = all.filter((one) => one.key !== of.key && one.point !== '' && one.unit === of.unit)
  return (
    <div className="flex flex-col gap-4">
      <p className="text-[1.9rem] font-bold">{shows(of)}</p>
      {of.how === 'second' && (
        <p>Another one already counts at {of.place}. Move this one, or ignore the other first.</p>
      )}
      <label className="block">
        Sits on
        <select
          value={of.point}
          onChange={(event) =>
            writeOn(visit.id, 'placements', { channel: of.key, point: event.target.value }, units)
          }
          className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
        >
          <option value="">Taken off</option>
          {of.where.map((point) => (
            <option key={point} value={point}>
              {label(point)}
            </option>
          ))}
        </select>
      </label>
      {of.can_zero && of.point !== '' && (
        <div>
          <Button onClick={() => writeOn(visit.id, 'zeros', { channel: of.key }, units)}>
            Zero it
          </Button>
          <p className="mt-1 text-[0.9rem] text-soft">
            Open it to air first: a zero taken under pressure shifts every reading after it.
          </p>
        </div>
      )}
      {of.point !== '' && twins.length > 0 && (
        <label className="block">
          Swap with (what both have read since they were put there is re-labelled; nothing is lost)
          <select
            value=""
            onChange={(event) =>
              writeOn(visit.id, 'swaps', { one: of.key, other: event.target.value }, units)
            }
            className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
          >
            <option value="">Choose the other one</option>
            {twins.map((one) => (
              <option key={one.key} value={one.key}>
                {one.label}, {one.place}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="flex flex-wrap gap-3">
        {of.point !== '' && (
          <Button
            onClick={() =>
              writeOn(visit.id, 'ignored', { channel: of.key, ignored: of.counts }, units)
            }
          >
            {of.counts ? 'Ignore it' : 'Count it again'}
          </Button>
        )}
        <Button weight="quiet" onClick={onBack}>
          All instruments
        </Button>
      </div>
    </div>
  )
}
