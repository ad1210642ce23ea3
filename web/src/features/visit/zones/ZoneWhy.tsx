import { useState, type ReactNode } from 'react'
import { useZones } from '../../../api/queries'
import type { Opened, Standing, Zones } from '../../../api/types'
import { OpenNumber } from '../../../ui/Opened'
import { PlantDrawn } from '../../../parts/plant/PlantDrawn'

type Sign = Zones['signs'][number]

/** What a log was read as: patterns by how much they are believed, and the numbers behind them. */
export function ZoneWhy({ visit }: { visit: Standing }) {
  const zones = useZones(visit.id, visit.zones?.state ?? null)
  if (zones.status !== 'ready' || !zones.data) return null
  const { beliefs, signs, rooms, remarks, kept_minutes, something_else } = zones.data
  return (
    <section aria-label="What its log shows" className="mb-4">
      <p className="text-[0.92rem] text-soft">
        {hours(kept_minutes)} of its log count: running, past the warm-up, in one mode.
        {zones.data.combination && ` Rooms come to ${zones.data.combination} of the plant.`}
      </p>
      {beliefs.length > 0 && (
        <ol aria-label="Patterns" className="mt-2">
          {beliefs.map((one) => (
            <li key={one.label} data-pattern className="border-b border-rule py-2">
              <div className="flex items-baseline justify-between gap-3">
                <strong>{one.label}</strong>
                <span className="whitespace-nowrap tabular-nums">{one.percent.toFixed(0)} %</span>
              </div>
              <div className="my-1 h-2 bg-rule" aria-hidden>
                <div className="h-2 bg-ink" style={{ width: `${one.percent}%` }} />
              </div>
              <p className="text-[0.95rem]">{one.sentence}</p>
              {one.shares.map((share) => (
                <p key={share.label} className="flex justify-between gap-3 pl-3 text-[0.95rem]">
                  <span>{share.label}</span>
                  <span className="whitespace-nowrap tabular-nums">
                    {share.percent.toFixed(0)} %
                  </span>
                </p>
              ))}
              {one.look_alikes.length > 0 && (
                <p className="mt-1 text-[0.95rem] text-soft">
                  Looks like: {one.look_alikes.join(', ').toLowerCase()}. {one.parted_by}
                </p>
              )}
            </li>
          ))}
          {something_else >= 1 && (
            <li className="flex justify-between gap-3 py-2 text-soft">
              <span>Something else</span>
              <span className="tabular-nums">{something_else.toFixed(0)} %</span>
            </li>
          )}
        </ol>
      )}
      {remarks.map((one) => (
        <p key={one} className="mt-2 border-l-4 border-rule-strong pl-3 text-[0.95rem]">
          {one}
        </p>
      ))}
      {zones.data.against && <Against found={zones.data.against} />}
      <Charge charge={zones.data.charge}>
        {visit.state !== 'closed' && <PlantDrawn systemId={visit.system.id} />}
      </Charge>
      <Signs title="The plant" signs={signs} lines={zones.data.lines} />
      {rooms.map((room) => (
        <Signs key={room.key} title={room.name} signs={room.signs} lines={room.lines} />
      ))}
    </section>
  )
}

/** Numbers off the log; what is off its usual first shown, each with its formula. */
function Signs({ title, signs, lines }: { title: string; signs: Sign[]; lines: Opened[] }) {
  const off = signs.filter((one) => one.is_off)
  const [all, setAll] = useState(false)
  const shown = all ? signs : off
  return (
    <div className="mt-3">
      <button
        type="button"
        aria-expanded={all}
        onClick={() => setAll(!all)}
        className="flex min-h-11 w-full items-center justify-between border-b border-rule-strong text-left"
      >
        <strong>{title}</strong>
        <span className="text-[0.92rem] text-soft">
          {off.length === 0 ? 'nothing off' : `${off.length} off`} · {all ? 'fewer' : 'all'}
        </span>
      </button>
      <dl>
        {shown.map((one) => (
          <div key={one.key} className="border-b border-rule py-1" data-off={one.is_off}>
            <div className="flex items-baseline justify-between gap-3">
              <dt>{one.label}</dt>
              <dd className="font-bold tabular-nums">{one.text}</dd>
            </div>
            <p className="text-[0.88rem] text-soft">
              {one.formula}
              {one.usual && `; usual ${one.usual}`}
            </p>
          </div>
        ))}
        {all &&
          lines.map((one) => (
            <div
              key={one.key}
              className="flex items-baseline justify-between gap-3 border-b border-rule"
            >
              <dt>{one.label}</dt>
              <dd>
                <OpenNumber number={one} className="font-bold tabular-nums">
                  {one.text}
                </OpenNumber>
              </dd>
            </div>
          ))}
      </dl>
    </div>
  )
}

/** The plant beside its own log from when nothing stood out, in like weather and load. */
function Against({ found }: { found: NonNullable<Zones['against']> }) {
  const day = new Date(found.at).toLocaleDateString([], {
    year: 'numeric',
    month: 'short',
    day: 'numeric',
  })
  return (
    <div className="mt-3" data-zone-against>
      <strong>Beside its own log of {day}</strong>
      {found.apart !== '' ? (
        <p className="text-[0.92rem] text-soft">Not compared. {found.apart}</p>
      ) : found.moved.length === 0 ? (
        <p className="text-[0.92rem] text-soft">Nothing moved that is worth a look.</p>
      ) : (
        <dl>
          {found.moved.map((one) => (
            <div key={one.label} className="flex justify-between gap-3 border-b border-rule py-1">
              <dt>{one.label}</dt>
              <dd className="tabular-nums">
                {one.then} → <strong>{one.now}</strong>
              </dd>
            </div>
          ))}
        </dl>
      )}
    </div>
  )
}

/** What belongs in it once it is empty and tight: for weighing in, never for adding. */
function Charge({ charge, children }: { charge: Zones['charge']; children: ReactNode }) {
  return (
    <div className="mt-3 border-b border-rule-strong pb-1" data-zone-charge>
      <div className="flex items-center justify-between gap-3">
        <strong>Its charge, by plate and pipes</strong>
        {charge.total && (
          <OpenNumber number={charge.total} className="font-bold whitespace-nowrap tabular-nums">
            {charge.total.text}
          </OpenNumber>
        )}
      </div>
      {charge.total ? (
        <p className="text-[0.88rem] text-soft">
          Weighed in after all of it was recovered; never added to what is there.
        </p>
      ) : (
        <p className="text-[0.92rem] text-soft">Not written yet: {charge.lacks.join('; ')}.</p>
      )}
      {children}
    </div>
  )
}

function hours(minutes: number): string {
  const whole = Math.floor(minutes / 60)
  return whole ? `${whole} h ${minutes % 60} min` : `${minutes} min`
}
