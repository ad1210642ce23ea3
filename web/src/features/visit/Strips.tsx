import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useSeries } from '../../api/queries'
import type { Assessment, Series, Visit } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { zoomed, type Span } from '../../lib/stripGeometry'
import { useKeys } from '../../state/keys'
import { useNarrow } from '../../state/narrow'
import { Button } from '../../ui/Button'
import { draw, LEFT, RIGHT, type CanvasProps } from './stripsCanvas'
import { serverNow } from '../../state/clock'

type Props = { visit: Visit }

const USUAL_SPAN_MS = 20 * 60_000
const FIRST = ['superheat', 'subcooling', 'suction_pressure']
const FIRST_IN_A_ROOM = ['box_air_temp', 'evaporator_outlet_temp', 'suction_pressure']
const FIRST_ON_A_VEHICLE = ['vent_air_temp', 'evaporator_outlet_temp', 'condenser_outlet_line_temp']

/** What is drawn first, by the kind of plant. */
function firstOf(visit: Visit): string[] {
  if (visit.room !== null) return FIRST_IN_A_ROOM
  return visit.vehicle !== null ? FIRST_ON_A_VEHICLE : FIRST
}

/** Settling strips: what moves, shaded where it is steady, marked where something was done. */
export function Strips({ visit }: Props) {
  const isLive = visit.live !== null
  const [span, setSpan] = useState<Span | null>(null) // null follows the present
  const [shown, setShown] = useState<string[]>(firstOf(visit))
  const now = useNow(isLive && span === null)
  const asked = span ?? (isLive ? { from: now - USUAL_SPAN_MS, to: now } : null)
  const frame = useNarrow() ? 'hand' : 'desk'
  const series = useSeries(visit.id, asked, shown, isLive && span === null, frame)
  if (series.status !== 'ready') {
    return (
      <p className="p-4">{series.status === 'error' ? series.message : 'Reading the traces…'}</p>
    )
  }
  const { first, last } = series.data
  if (first === null || last === null) {
    return (
      <p className="p-4">
        No traces yet. Place an instrument, or read a log file; typed readings have none.
      </p>
    )
  }
  const all = { from: first, to: Math.max(last, isLive ? now : 0) }
  return (
    <Plot
      data={series.data}
      view={asked ?? all}
      all={all}
      isLive={isLive}
      follows={isLive && span === null}
      targets={visit.assessment?.targets ?? {}}
      shown={shown}
      onShow={setShown}
      onSpan={setSpan}
    />
  )
}

type PlotProps = {
  data: Series
  view: Span
  all: Span
  isLive: boolean
  follows: boolean
  targets: Assessment['targets']
  shown: string[]
  onShow: (keys: string[]) => void
  onSpan: (span: Span | null) => void
}

function Plot(props: PlotProps) {
  const { data, view, all, isLive, follows, targets, shown, onShow, onSpan } = props
  const zoom = (factor: number, about = (view.from + view.to) / 2) =>
    onSpan(zoomed(view, factor, about, all))
  const slide = (ms: number) => onSpan({ from: view.from + ms, to: view.to + ms })
  const half = (view.to - view.from) / 2
  useKeys([
    { key: '+', label: 'Zoom the strips in', run: () => zoom(0.5) },
    { key: '-', label: 'Zoom the strips out', run: () => zoom(2) },
    { key: ',', label: 'Earlier on the strips', run: () => slide(-half) },
    { key: '.', label: 'Later on the strips', run: () => slide(half) },
    { key: '#', label: 'All there is on the strips', run: () => onSpan(all) },
    { key: 'z', label: 'Follow the present', run: () => onSpan(null) },
  ])
  return (
    <section aria-label="Settling strips" className="flex h-full min-h-64 flex-col gap-1">
      <div className="flex flex-wrap items-center gap-1">
        <Button tight onClick={() => zoom(0.5)} aria-label="Zoom in">
          +
        </Button>
        <Button tight onClick={() => zoom(2)} aria-label="Zoom out">
          −
        </Button>
        <Button tight onClick={() => slide(-half)} aria-label="Earlier">
          ‹
        </Button>
        <Button tight onClick={() => slide(half)} aria-label="Later">
          ›
        </Button>
        <Button className="px-3" onClick={() => onSpan(all)}>
          All
        </Button>
        {isLive && (
          <Button className="px-3" aria-pressed={follows} onClick={() => onSpan(null)}>
            {follows ? 'Following' : 'Follow now'}
          </Button>
        )}
        <Which data={data} shown={shown} onChange={onShow} />
      </div>
      <Canvas
        data={data}
        shown={shown}
        view={view}
        follows={follows}
        targets={targets}
        onZoom={zoom}
        onSlide={slide}
      />
    </section>
  )
}

const CHOICES = [
  'superheat', 'subcooling', 'suction_pressure', 'liquid_pressure', 'suction_line_temp',
  'liquid_line_temp', 'discharge_line_temp', 'evaporator_outlet_temp', 'liquid_line_temp_indoor',
  'outdoor_air_temp', 'box_air_temp', 'vent_air_temp', 'condenser_inlet_line_temp',
  'condenser_outlet_line_temp', 'condenser_entering_air_temp', 'return_air_temp', 'return_air_wet_bulb', 'supply_air_temp',
  'total_external_static', 'compressor_amps', 'outdoor_unit_watts', 'cylinder_weight',
] // prettier-ignore

type WhichProps = { data: Series; shown: string[]; onChange: (keys: string[]) => void }

/** One more strip, or one less: a plain list, so that it works by thumb and by keyboard. */
function Which({ data, shown, onChange }: WhichProps) {
  const label = (key: string) =>
    data.traces.find((trace) => trace.key === key)?.label ?? inWords(key)
  return (
    <>
      <select
        aria-label="Add a strip"
        value=""
        onChange={(event) => onChange([...shown.slice(-3), event.target.value])}
        className="h-11 max-w-36 rounded border border-rule-strong bg-sheet px-2"
      >
        <option value="">Add a strip</option>
        {CHOICES.filter((key) => !shown.includes(key)).map((key) => (
          <option key={key} value={key}>
            {label(key)}
          </option>
        ))}
      </select>
      {shown.length > 1 && (
        <select
          aria-label="Take a strip away"
          value=""
          onChange={(event) => onChange(shown.filter((key) => key !== event.target.value))}
          className="h-11 max-w-36 rounded border border-rule-strong bg-sheet px-2"
        >
          <option value="">Take away</option>
          {shown.map((key) => (
            <option key={key} value={key}>
              {label(key)}
            </option>
          ))}
        </select>
      )}
    </>
  )
}

function inWords(key: string): string {
  const words = key.replace(/_temp$/, '').replaceAll('_', ' ')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

function Canvas(props: CanvasProps) {
  const { data, shown, onZoom, onSlide } = props
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const latest = useRef(props)
  const dragged = useRef<number | null>(null)
  const { follows } = props
  useLayoutEffect(() => {
    latest.current = props
    if (!follows && canvas.current) draw(canvas.current, props)
  })
  // Only the present moves by itself: anything else is drawn again when it has changed.
  useLayoutEffect(() => {
    let request = 0
    const once = () => canvas.current && draw(canvas.current, latest.current)
    const paint = () => {
      once()
      request = requestAnimationFrame(paint)
    }
    if (follows) request = requestAnimationFrame(paint)
    const sized = new ResizeObserver(once)
    if (frame.current) sized.observe(frame.current)
    const themed = new MutationObserver(once)
    themed.observe(document.documentElement, { attributeFilter: ['data-theme'] })
    return () => {
      cancelAnimationFrame(request)
      sized.disconnect()
      themed.disconnect()
    }
  }, [follows])
  useEffect(() => {
    const element = frame.current
    if (!element) return
    const perPixel = () => {
      const { view } = latest.current
      return (view.to - view.from) / (element.clientWidth - LEFT - RIGHT)
    }
    const wheel = (event: WheelEvent) => {
      event.preventDefault()
      const x = event.clientX - element.getBoundingClientRect().left - LEFT
      onZoom(event.deltaY > 0 ? 1.25 : 0.8, latest.current.view.from + x * perPixel())
    }
    const down = (event: PointerEvent) => {
      dragged.current = event.clientX
      element.setPointerCapture(event.pointerId)
    }
    const move = (event: PointerEvent) => {
      if (dragged.current === null) return
      const by = event.clientX - dragged.current
      dragged.current = event.clientX
      if (by !== 0) onSlide(-by * perPixel())
    }
    const up = () => (dragged.current = null)
    element.addEventListener('wheel', wheel, { passive: false })
    element.addEventListener('pointerdown', down)
    element.addEventListener('pointermove', move)
    element.addEventListener('pointerup', up)
    return () => {
      element.removeEventListener('wheel', wheel)
      element.removeEventListener('pointerdown', down)
      element.removeEventListener('pointermove', move)
      element.removeEventListener('pointerup', up)
    }
  })
  return (
    <div
      ref={frame}
      role="img"
      aria-label={spoken(data, shown)}
      className="min-h-0 flex-1 cursor-grab touch-pan-y rounded"
    >
      <canvas ref={canvas} className="block h-full w-full" />
    </div>
  )
}

function spoken(data: Series, shown: string[]): string {
  const lines = shown.flatMap((key) => {
    const trace = data.traces.find((one) => one.key === key)
    const last = trace?.rows.at(-1)
    if (!trace || !last) return []
    return [`${trace.label} ${formatNumber(last[1], trace.decimals)} ${trace.unit}`]
  })
  return `Settling strips. ${lines.join('; ')}. Comma and full stop move, plus and minus zoom, e follows the present.`
}

/** The present, for asking; the drawing itself glides every frame. */
function useNow(runs: boolean): number {
  const [now, setNow] = useState(() => serverNow())
  useEffect(() => {
    if (!runs) return
    const timer = setInterval(() => setNow(serverNow()), 3_000)
    return () => clearInterval(timer)
  }, [runs])
  return now
}
