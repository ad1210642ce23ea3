import { useState } from 'react'
import { useZones } from '../../../api/queries'
import type { Standing, Zones } from '../../../api/types'

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
                <span className="tabular-nums">{one.percent.toFixed(0)} %</span>
              </div>
              <div className="my-1 h-2 bg-rule" aria-hidden>
                <div className="h-2 bg-ink" style={{ width: `${one.percent}%` }} />
              </div>
              <p className="text-[0.95rem]">{one.sentence}</p>
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
      <Signs title="The plant" signs={signs} />
      {rooms.map((room) => (
        <Signs key={room.key} title={room.name} signs={room.signs} />
      ))}
    </section>
  )
}

/** Numbers off the log; what is off its usual first shown, each with its formula. */
function Signs({ title, signs }: { title: string; signs: Sign[] }) {
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
      </dl>
    </div>
  )
}

function hours(minutes: number): string {
  const whole = Math.floor(minutes / 60)
  return whole ? `${whole} h ${minutes % 60} min` : `${minutes} min`
}
