import type { Zones } from '../../../api/types'

type Props = { zones: Zones; frame: number; part: string; onPart: (key: string) => void }

/** The rooms as a table, the worst first: what a phone shows, and whoever wants rows. */
export function RoomList({ zones, frame, part, onPart }: Props) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="border-b border-rule-strong text-[0.92rem] text-soft">
          <th scope="col" className="py-1 font-normal">
            the worst first
          </th>
          <th scope="col" className="py-1 text-right font-normal">
            is, {zones.unit}
          </th>
          <th scope="col" className="py-1 text-right font-normal">
            wants
          </th>
          <th scope="col" className="py-1 text-right font-normal">
            valve
          </th>
        </tr>
      </thead>
      <tbody>
        {zones.rooms.map((room) => {
          const valve = room.valve[frame]
          return (
            <tr
              key={room.key}
              data-room={room.key}
              data-carries={zones.carried.includes(room.key)}
              className="border-b border-rule data-[carries=true]:border-l-4 data-[carries=true]:border-l-alarm"
            >
              <th scope="row" className="py-2 pl-1 font-bold">
                <button
                  type="button"
                  aria-pressed={room.key === part}
                  onClick={() => onPart(room.key === part ? '' : room.key)}
                  className="min-h-11 w-full text-left"
                >
                  {room.name}
                  <span className="block font-normal text-soft">
                    {room.calls[frame] ? 'calls' : 'does not call'}
                  </span>
                </button>
              </th>
              <td className="text-right text-[1.5rem] font-bold tabular-nums">
                {room.has[frame]?.toFixed(1) ?? '–'}
              </td>
              <td className="text-right tabular-nums">{room.wants[frame]?.toFixed(1) ?? '–'}</td>
              <td className="text-right tabular-nums">
                {valve == null ? '–' : `${Math.round(100 * valve)} %`}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
