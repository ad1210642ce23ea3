import { useState } from 'react'
import type { Assessment, Units, Visit, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { writeOn } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { serverNow } from '../../state/clock'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units; onClose: () => void }

/** The stations in the order they are walked, and what to mind at each. */
const STATIONS = [
  { point: 'liquid_line_temp', where: 'Leaving the outdoor unit', short: 'Outdoor' },
  { point: 'drier_inlet_temp', where: 'Just before the drier', short: 'Before drier' },
  { point: 'drier_outlet_temp', where: 'Just after the drier', short: 'After drier' },
  {
    point: 'liquid_line_temp_indoor',
    where: 'Just before the metering device',
    short: 'Before device',
  },
] as const

/** The temperature walk: one station at a time, each drop judged as soon as both its ends are there. */
export function WalkCard({ visit, vocabulary, units, onClose }: Props) {
  const [at, setAt] = useState(0)
  const [text, setText] = useState('')
  const station = STATIONS[at]
  const row = vocabulary.points.find((one) => one.key === station?.point)
  const take = () => {
    const value = text.trim().replace(',', '.')
    if (value !== '' && row && Number.isFinite(Number(value))) {
      const line = `${row.short[0] ?? row.key} ${value}`
      writeOn(
        visit.id,
        'callouts',
        { text: line, heard_at: new Date(serverNow()).toISOString() },
        units,
      )
    }
    setText('')
    if (at < STATIONS.length - 1) setAt(at + 1)
  }
  return (
    <Panel open onClose={onClose} title="Walk the liquid line">
      <ol className="grid grid-cols-2 gap-2">
        {STATIONS.map((one, index) => {
          const read = readingAt(visit, one.point)
          return (
            <li key={one.point}>
              <button
                type="button"
                aria-current={index === at ? 'step' : undefined}
                onClick={() => setAt(index)}
                className="min-h-14 w-full rounded border border-rule-strong px-2 py-1 text-left aria-[current]:border-2 aria-[current]:border-ink aria-[current]:font-bold"
              >
                <span className="block text-[0.88rem]">
                  {index + 1}. {one.short}
                </span>
                <span className="block text-[1.2rem]">
                  {read === null ? '—' : `${formatNumber(read, 1)} ${row?.unit ?? ''}`}
                </span>
              </button>
            </li>
          )
        })}
      </ol>
      <form
        className="mt-2 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          take()
        }}
      >
        <label htmlFor="walk" className="min-w-0 flex-1 basis-56 leading-tight">
          <strong>{station?.where}</strong>
          <span className="block text-[0.92rem] text-soft">
            The same clamp each time, on clean bare pipe, out of the sun.
          </span>
        </label>
        <input
          id="walk"
          key={station?.point}
          autoFocus
          inputMode="decimal"
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="h-13 w-28 rounded border-2 border-ink bg-ground px-2 font-mono text-[1.3rem]"
        />
        <Button type="submit" className="h-13">
          {text.trim() === '' ? 'Skip' : 'Take it'}
        </Button>
      </form>
      {visit.assessment && <Drops assessment={visit.assessment} />}
    </Panel>
  )
}

function Drops({ assessment }: { assessment: Assessment }) {
  if (assessment.walk.length === 0) return null
  return (
    <ul className="mt-2" aria-live="polite">
      {assessment.walk.map((stretch) => (
        <li
          key={stretch.key}
          data-stretch={stretch.state}
          className="py-0.5 data-[stretch=restricted]:border-l-8 data-[stretch=restricted]:border-alarm data-[stretch=restricted]:pl-2 data-[stretch=restricted]:font-bold"
        >
          {stretch.message}
        </li>
      ))}
    </ul>
  )
}

function readingAt(visit: Visit, point: string): number | null {
  const found = visit.readings.find(
    (one) => one.point === point && (one.state === 'live' || one.state === 'current'),
  )
  return found?.value ?? null
}
