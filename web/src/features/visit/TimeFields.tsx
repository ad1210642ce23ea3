import type { FileMapping } from '../../api/types'

type Times = Pick<FileMapping, 'time_form' | 'zone_minutes' | 'starts_ms'>
type Props = { times: Times; onChange: (part: Partial<Times>) => void }

/** How a log’s times are written, in which zone, and what elapsed ones are counted from. */
export function TimeFields({ times, onChange }: Props) {
  return (
    <div className="mb-3 grid grid-cols-2 gap-3">
      <label>
        Times are
        <select
          value={times.time_form}
          onChange={(event) =>
            onChange({ time_form: event.target.value as FileMapping['time_form'] })
          }
          className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
        >
          <option value="iso">2026-07-14 12:30:00</option>
          <option value="month_first">7/14/2026 (month first)</option>
          <option value="day_first">14/7/2026 (day first)</option>
          <option value="epoch_s">seconds since 1970</option>
          <option value="epoch_ms">milliseconds since 1970</option>
          <option value="elapsed">counted from its start</option>
        </select>
      </label>
      {times.time_form === 'elapsed' && (
        <label className="col-span-2">
          It started at
          <input
            type="datetime-local"
            step={1}
            value={localMoment(times.starts_ms ?? 0)}
            onChange={(event) => {
              const at = new Date(event.target.value).getTime()
              if (!Number.isNaN(at)) onChange({ starts_ms: at })
            }}
            className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
          />
        </label>
      )}
      <label>
        Zone of times that name none
        <select
          value={times.zone_minutes}
          onChange={(event) => onChange({ zone_minutes: Number(event.target.value) })}
          className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
        >
          {zones(times.zone_minutes).map((minutes) => (
            <option key={minutes} value={minutes}>
              {zoneName(minutes)}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

/** A moment as a local date and time, for its field. */
function localMoment(ms: number): string {
  const at = new Date(ms - new Date(ms).getTimezoneOffset() * 60_000)
  return at.toISOString().slice(0, 19)
}

function zones(own: number): number[] {
  const whole = Array.from({ length: 27 }, (_, i) => (i - 12) * 60)
  return [...new Set([own, ...whole])].sort((a, b) => a - b)
}

function zoneName(minutes: number): string {
  const hours = Math.floor(Math.abs(minutes) / 60)
  const rest = String(Math.abs(minutes) % 60).padStart(2, '0')
  return `UTC ${minutes < 0 ? '−' : '+'}${hours}:${rest}`
}
