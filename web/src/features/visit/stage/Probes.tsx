import type { DrawnLoop, Instrument } from '../../../api/types'

type Props = {
  drawn: DrawnLoop
  scale: number
  instruments: Instrument[]
  onProbe: (key: string) => void
  onPlace: (channel: string, point: string) => void
}

const REACH = 22

/** What sits on the Loop: each probe is a button at its place; a free place takes an idle one. */
export function Probes({ drawn, scale, instruments, onProbe, onPlace }: Props) {
  const free = instruments.filter((one) => one.point === '')
  return drawn.places.flatMap((place) => {
    const probe = instruments.find((one) => one.point === place.point)
    const at = { left: place.x * scale - REACH, top: place.y * scale - REACH }
    if (probe && place.is_read) {
      return [
        <button
          key={probe.key}
          type="button"
          data-probe={probe.key}
          title={probe.label}
          aria-label={`${probe.label} on ${probe.place}${probe.counts ? '' : ', ignored'}: zero, move, swap or ignore it`}
          onClick={() => onProbe(probe.key)}
          style={at}
          className={`absolute h-11 w-11 rounded ${probe.counts ? '' : 'border-2 border-dashed border-alarm'}`}
        />,
      ]
    }
    const idle = free.find((one) => one.where.includes(place.point))
    if (place.is_read || !idle || drawn.frame === 'hand' || place.key === 'discharge_line')
      return []
    const where = place.label.toLowerCase()
    return [
      <button
        key={place.key}
        type="button"
        title={`Place ${idle.label}: ${where}`}
        aria-label={`Place ${idle.label} on ${where}`}
        onClick={() => onPlace(idle.key, place.point)}
        style={at}
        className="absolute grid h-11 w-11 place-items-center"
      >
        <span className="grid h-6 w-6 place-items-center rounded-full border-2 border-dashed border-rule-strong bg-ground leading-none">
          +
        </span>
      </button>,
    ]
  })
}
