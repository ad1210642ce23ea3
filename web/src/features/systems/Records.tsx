import { useState } from 'react'
import { Link } from 'react-router'
import { useRecords } from '../../api/queries'
import type { BaselineOfMode, Drift, Records, System, Units } from '../../api/types'
import { formatNumber, lowered, numberIn, shortTime } from '../../lib/format'
import { newId } from '../../lib/ids'
import { OpenItems } from '../../parts/OpenItems'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { TimeLines } from './TimeLine'
import { serverDate } from '../../state/clock'

type Props = { system: System; units: Units }

/** Where a system stands against its baseline, and its years. */
export function Standing({ system, units }: Props) {
  const records = useRecords(system.id)
  return (
    <LoadState of={records}>
      {(found) => (
        <>
          <section aria-label="Against the baseline">
            <Heading
              aside={found.baselines
                .map((one) => `${one.mode} since ${shortTime(one.baseline_at, serverDate())}`)
                .join(', ')}
            >
              Against the baseline
            </Heading>
            <Baselines found={found} system={system} units={units} />
          </section>
          <section aria-label="Over the years">
            <Heading aside={`${found.snaps.length} settled`}>Over the years</Heading>
            <TimeLines snaps={found.snaps} unit={found.unit} />
          </section>
        </>
      )}
    </LoadState>
  )
}

/** What waits for a season, and the refrigerant of its whole life. */
export function Keeping({ system, units }: Props) {
  const records = useRecords(system.id)
  return (
    <LoadState of={records}>
      {(found) => (
        <>
          <section aria-label="Left for later">
            <Heading>Left for later</Heading>
            <Left found={found} units={units} />
          </section>
          <section aria-label="Refrigerant over its life">
            <Heading>Refrigerant over its life</Heading>
            <Charge found={found} system={system} units={units} />
          </section>
          <a
            href={`/api/systems/${system.id}/bundle.json`}
            download
            className="inline-flex min-h-11 items-center self-start underline underline-offset-4"
          >
            Save this system with all its visits, JSON
          </a>
        </>
      )}
    </LoadState>
  )
}

type PartProps = { found: Records; system: System; units: Units }

function Baselines({ found, system, units }: PartProps) {
  if (found.baselines.length === 0) {
    return (
      <p className="py-2 text-soft">
        None yet. Keep one at the end of a visit that is settled and judged right: later visits are
        compared with it at like conditions.
      </p>
    )
  }
  return (
    <div className="py-2">
      {found.baselines.map((one) => (
        <OfMode
          key={one.mode}
          kept={one}
          isOne={found.baselines.length === 1}
          system={system}
          units={units}
        />
      ))}
      {found.intended.map((one) => (
        <p key={one.id} className="mt-1 text-[0.95rem]">
          Changed on purpose, {shortTime(one.happened_at, serverDate())}: {lowered(one.label)}.{' '}
          {one.note}
        </p>
      ))}
    </div>
  )
}

type OfModeProps = { kept: BaselineOfMode; isOne: boolean; system: System; units: Units }

/** The last visit in a mode against that mode's baseline: winters beside winters. */
function OfMode({ kept, isOne, system, units }: OfModeProps) {
  const { drift, mode } = kept
  const where = isOne ? '' : ` in ${mode}`
  return (
    <div className="mb-3" data-mode={mode}>
      {!isOne && <h4 className="font-bold text-soft">In {mode}</h4>}
      {drift ? (
        <>
          <p
            data-drift={drift.is_flagged}
            className={`border-l-8 pl-3 text-[1.1rem] leading-snug font-bold ${drift.is_flagged ? 'border-accent' : 'border-rule'}`}
          >
            {drift.said}
          </p>
          <p className="mt-1 text-[0.92rem] text-soft">
            <Link className="underline underline-offset-4" to={`/visits/${kept.compared_visit}`}>
              The last visit that was read{where}
            </Link>
            , with the weather of both days taken out.
          </p>
          <Moved drift={drift} />
        </>
      ) : (
        <p className="text-soft">No later visit{where} that can be compared yet.</p>
      )}
      <Button
        weight="quiet"
        tight
        onClick={() => {
          const id = newId()
          const blanks = { system_id: system.id }
          post('/api/systems/{system_id}/baseline-ends', { id, mode }, { id, units, blanks })
        }}
      >
        This baseline{where} no longer holds
      </Button>
    </div>
  )
}

/** What moved, each on a scale of what it wanders anyway. */
function Moved({ drift }: { drift: Drift }) {
  const shown = [...drift.moved]
    .sort((one, other) => Math.abs(other.by / other.sigma) - Math.abs(one.by / one.sigma))
    .slice(0, 7)
  return (
    <table className="mt-2 w-full text-[0.95rem]">
      <thead className="text-left text-soft">
        <tr>
          <th className="font-normal">What</th>
          <th className="pl-2 text-right font-normal">Moved</th>
          <th className="pl-2 text-right font-normal">Wanders</th>
          <th className="w-20 sm:w-28">
            <span className="sr-only">Drawn</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {shown.map((one) => (
          <tr key={one.key} data-moved={one.key} className="border-t border-rule">
            <td className="py-1">
              {one.label}
              {one.is_intended && <span className="text-soft"> · on purpose</span>}
            </td>
            <td
              className={`pl-2 text-right whitespace-nowrap tabular-nums ${one.is_out ? 'font-bold' : ''}`}
            >
              {one.by > 0 ? '+' : ''}
              {formatNumber(one.by, 1)} {one.unit}
            </td>
            <td className="pl-2 text-right whitespace-nowrap text-soft tabular-nums">
              ± {formatNumber(2 * one.sigma, 1)}
            </td>
            <td>
              <Wander share={one.by / (2 * one.sigma)} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** A mark against the bracket of what is ordinary. */
function Wander({ share }: { share: number }) {
  const at = 50 + Math.max(-46, Math.min(46, share * 16))
  return (
    <svg viewBox="0 0 100 16" className="ml-2 h-4 w-20 sm:w-28" aria-hidden>
      <path d="M0 8H100" stroke="var(--rule-strong)" strokeWidth="1" />
      <path d="M37 2H34V14H37M63 2H66V14H63" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <circle cx={at} cy="8" r="3.6" fill="var(--ink)" />
    </svg>
  )
}

function Left({ found, units }: { found: Records; units: Units }) {
  const open = found.deferred.filter((item) => item.done_at === null)
  if (open.length === 0) return <p className="py-2 text-soft">Nothing waits.</p>
  return <OpenItems items={open} units={units} />
}

function Charge({ found, system, units }: PartProps) {
  const [text, setText] = useState('')
  const charge = numberIn(text)
  return (
    <div className="py-2">
      <p>
        Added <strong className="tabular-nums">{formatNumber(found.added, 2)}</strong>, taken out{' '}
        <strong className="tabular-nums">{formatNumber(found.removed, 2)}</strong>{' '}
        {found.charge_unit} by the ledger.
      </p>
      <p className="mt-1">
        {found.written_charge === null
          ? 'Its whole charge is not written yet.'
          : `Whole charge ${formatNumber(found.written_charge, 2)} ${found.charge_unit}, written ${found.written_at ? shortTime(found.written_at, serverDate()) : ''}.`}
      </p>
      <form
        aria-label="Write the whole charge"
        className="mt-1 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (charge === null || charge <= 0) return
          const blanks = { system_id: system.id }
          post('/api/systems/{system_id}/written-charge', { charge }, { units, blanks })
          setText('')
        }}
      >
        <input
          inputMode="decimal"
          aria-label={`Whole charge, ${found.charge_unit}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="h-11 w-24 rounded border border-rule-strong bg-sheet px-2"
        />
        {found.charge_unit}
        <Button type="submit" disabled={charge === null || charge <= 0}>
          Write it for the next one
        </Button>
      </form>
    </div>
  )
}
