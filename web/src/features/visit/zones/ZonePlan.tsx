import { useState } from 'react'
import { useZones } from '../../../api/queries'
import type { Standing, Zones } from '../../../api/types'
import { useNarrow } from '../../../state/narrow'
import { PlanDrawing } from './PlanDrawing'
import { PartStrip } from './PartStrip'
import { RoomList } from './RoomList'

type Props = { visit: Standing; onRead: () => void }

/** The plant on its storeys over the time of its log; without one, how to bring it. */
export function ZonePlan({ visit, onRead }: Props) {
  const zones = useZones(visit.id, visit.zones?.state ?? null)
  if (!visit.zones?.state) return <NoLog isOpen={visit.state !== 'closed'} onRead={onRead} />
  if (zones.status === 'error') return <p role="alert">{zones.message}</p>
  if (zones.status === 'pending') return <p role="status">Unpacking its log…</p>
  if (!zones.data) return <NoLog isOpen={visit.state !== 'closed'} onRead={onRead} />
  return <Slid zones={zones.data} />
}

function NoLog({ isOpen, onRead }: { isOpen: boolean; onRead: () => void }) {
  return (
    <div className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
      <div className="flex max-w-[34rem] flex-col items-center gap-3">
        <p>
          A plant with many rooms hides its trouble: it holds its target while rooms grow warm. Its
          log shows it, an hour of it at least: a file with a time in each line and each room’s
          number in the headings.
        </p>
        {isOpen && (
          <button
            type="button"
            onClick={onRead}
            className="min-h-11 rounded bg-accent px-4 font-bold text-on-accent"
          >
            Read its log
          </button>
        )}
      </div>
    </div>
  )
}

/** The plan at a moment, and the slider under it. */
function Slid({ zones }: { zones: Zones }) {
  const last = zones.frames.at_ms.length - 1
  const [frame, setFrame] = useState<number | null>(null) // none: the newest, as lines come in
  const [rows, setRows] = useState(false)
  const [part, setPart] = useState('')
  const isHand = useNarrow()
  const at = Math.min(frame ?? last, last)
  const strip = zones.rooms.find((room) => room.key === part)
  return (
    <div className="flex h-full min-h-0 flex-col gap-1">
      <div className="min-h-0 flex-1 overflow-auto" data-zones={zones.state}>
        {isHand || rows ? (
          <RoomList zones={zones} frame={at} part={part} onPart={setPart} />
        ) : (
          <PlanDrawing zones={zones} frame={at} part={part} onPart={setPart} />
        )}
      </div>
      {strip && <PartStrip room={strip} zones={zones} frame={at} onFrame={setFrame} />}
      <label className="flex shrink-0 items-center gap-3 pr-2 text-[0.92rem]">
        <span className="w-[12.5rem] tabular-nums" data-moment>
          {moment(zones.frames.at_ms[at] ?? 0)}
        </span>
        <input
          type="range"
          min={0}
          max={last}
          value={at}
          aria-label="Moment of the log"
          aria-valuetext={moment(zones.frames.at_ms[at] ?? 0)}
          onChange={(event) => setFrame(Number(event.target.value))}
          className="h-11 min-w-0 flex-1 accent-[var(--accent)]"
        />
        {!isHand && (
          <button
            type="button"
            aria-pressed={rows}
            onClick={() => setRows(!rows)}
            className="min-h-11 rounded border border-rule-strong px-3"
          >
            {rows ? 'Storeys' : 'Rows'}
          </button>
        )}
      </label>
    </div>
  )
}

function moment(ms: number): string {
  const at = new Date(ms)
  const day = at.toLocaleDateString([], { weekday: 'short', month: 'short', day: 'numeric' })
  return `${day}, ${at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}`
}
