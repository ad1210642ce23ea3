import { useState } from 'react'
import { useInstruments } from '../../api/queries'
import type { Register, RegisteredInstrument } from '../../api/types'
import { numberIn, shortTime } from '../../lib/format'
import { newId } from '../../lib/ids'
import { serverDate } from '../../state/clock'
import { patch, post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'

const PATH = '/api/workshop/instruments'
const FIELD = 'mt-1 h-11 w-full rounded border border-rule-strong bg-sheet px-2'

/** What is carried: how far each may be off, which every ± on every screen counts with. */
export function Instruments() {
  const register = useInstruments()
  const [isAdding, setAdding] = useState(false)
  return (
    <section aria-label="Instruments" className="mt-8">
      <Heading aside="their ± is counted with">Instruments</Heading>
      <LoadState of={register}>
        {(found) => (
          <>
            {found.instruments.length === 0 && (
              <p className="mt-2 text-soft">
                None is registered: every ± is the usual of its kind. Write down what your own sheet
                says.
              </p>
            )}
            <ul className="mt-3 border-t border-rule">
              {found.instruments.map((one) => (
                <Row key={one.id} one={one} zeroes={sortOf(found, one)?.zeroes === true} />
              ))}
            </ul>
            {isAdding ? (
              <Add register={found} onDone={() => setAdding(false)} />
            ) : (
              <Button className="mt-3" onClick={() => setAdding(true)}>
                Register an instrument
              </Button>
            )}
          </>
        )}
      </LoadState>
    </section>
  )
}

function sortOf(register: Register, one: RegisteredInstrument) {
  return register.sorts.find((sort) => sort.key === one.sort)
}

/** One instrument: its ±, what is due on it, and the two things done to it. */
function Row({ one, zeroes }: { one: RegisteredInstrument; zeroes: boolean }) {
  const { units } = usePreferences()
  const change = (what: { zeroed?: boolean; retired?: boolean }) =>
    patch('/api/workshop/instruments/{instrument_id}', what, {
      units,
      blanks: { instrument_id: one.id },
    })
  const until = one.calibrated_until
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-rule py-2">
      <span className="min-w-0">
        <strong className="break-words">{one.name}</strong>
        <span className="block text-[0.92rem] text-soft">
          {one.label}
          {one.accuracy !== '' && `, ${one.accuracy}${one.is_own ? '' : ' (usual)'}`}
        </span>
        <span className="block text-[0.92rem]" data-state={one.is_lapsed ? 'lapsed' : 'standing'}>
          {until !== null &&
            (one.is_lapsed ? `▲ Calibration ran out on ${until}. ` : `Calibrated until ${until}. `)}
          {one.zeroed_at !== null && `Zeroed ${shortTime(one.zeroed_at, serverDate())}. `}
          {one.hose_years !== null &&
            (one.hoses_are_old
              ? `▲ Hoses ${one.hose_years.toFixed(1)} years old: renew them. `
              : `Hoses ${one.hose_years.toFixed(1)} years old. `)}
        </span>
      </span>
      <span className="flex gap-2">
        {zeroes && (
          <Button tight className="px-3" onClick={() => change({ zeroed: true })}>
            Zeroed now
          </Button>
        )}
        <Button
          tight
          className="px-3"
          aria-label={`Retire ${one.name}`}
          onClick={() => change({ retired: true })}
        >
          Retire
        </Button>
      </span>
    </li>
  )
}

function Add({ register, onDone }: { register: Register; onDone: () => void }) {
  const { units } = usePreferences()
  const [name, setName] = useState('')
  const [sort, setSort] = useState('gauges')
  const [fixed, setFixed] = useState('')
  const [percent, setPercent] = useState('')
  const [until, setUntil] = useState('')
  const [hoses, setHoses] = useState('')
  const row = register.sorts.find((one) => one.key === sort)
  return (
    <form
      aria-label="A new instrument"
      className="mt-4 grid grid-cols-1 gap-3 border-y border-rule-strong py-4 sm:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim() === '') return
        const id = newId()
        const dates = {
          ...(until !== '' && { calibrated_until: until }),
          ...(hoses !== '' && row?.has_hoses && { hoses_since: hoses }),
        }
        const sheet = {
          ...(numberIn(fixed) !== null && { fixed: numberIn(fixed) }),
          ...(numberIn(percent) !== null && { percent: numberIn(percent) }),
        }
        post(PATH, { id, name, sort, ...sheet, ...dates }, { id, units })
        onDone()
      }}
    >
      <label>
        Name, as you call it
        <input autoFocus className={FIELD} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label>
        Kind
        <select className={FIELD} value={sort} onChange={(e) => setSort(e.target.value)}>
          {register.sorts.map((one) => (
            <option key={one.key} value={one.key}>
              {one.label}
            </option>
          ))}
        </select>
      </label>
      {row !== undefined && row.unit !== '' && (
        <>
          <label>
            ± by its own sheet, {row.unit}
            <input
              className={FIELD}
              inputMode="decimal"
              value={fixed}
              onChange={(e) => setFixed(e.target.value)}
            />
            <span className="block text-[0.92rem] text-soft">Left empty: {row.usual}.</span>
          </label>
          <label>
            or % of the reading, whichever is more
            <input
              className={FIELD}
              inputMode="decimal"
              value={percent}
              onChange={(e) => setPercent(e.target.value)}
            />
          </label>
        </>
      )}
      <label>
        Calibrated until
        <input
          type="date"
          className={FIELD}
          value={until}
          onChange={(e) => setUntil(e.target.value)}
        />
      </label>
      {row?.has_hoses === true && (
        <label>
          Hoses in use since
          <input
            type="date"
            className={FIELD}
            value={hoses}
            onChange={(e) => setHoses(e.target.value)}
          />
        </label>
      )}
      <span className="flex gap-2 sm:col-span-2">
        <Button type="submit" weight="do" disabled={name.trim() === ''}>
          Register it
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </span>
    </form>
  )
}
