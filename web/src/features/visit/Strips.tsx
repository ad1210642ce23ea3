import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useSeries } from '../../api/queries'
import type { Assessment, Series, Trace, Visit } from '../../api/types'
import { formatNumber } from '../../lib/format'
import {
  layOutStrip,
  runs,
  timeLabel,
  timeTicks,
  zoomed,
  type Column,
  type Span,
} from '../../lib/stripGeometry'
import { useKeys } from '../../state/keys'
import { liveRows } from '../../state/live'
import { Button } from '../../ui/Button'

type Props = { visit: Visit }

const USUAL_SPAN_MS = 20 * 60_000
const FIRST = ['superheat', 'subcooling', 'suction_pressure']
const LEFT = 46
const RIGHT = 8
const FOOT = 22
const HEAD = 20
const LEAST_RANGE = 2

/** Settling strips: what moves, shaded where it is steady, marked where something was done. */
export function Strips({ visit }: Props) {
  const isLive = visit.live !== null
  const [span, setSpan] = useState<Span | null>(null) // null follows the present
  const [shown, setShown] = useState<string[]>(FIRST)
  const now = useNow(isLive && span === null)
  const asked = span ?? (isLive ? { from: now - USUAL_SPAN_MS, to: now } : null)
  const series = useSeries(visit.id, asked, shown, isLive && span === null)
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
    { key: 'a', label: 'All there is on the strips', run: () => onSpan(all) },
    { key: 'e', label: 'Follow the present', run: () => onSpan(null) },
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
  'outdoor_air_temp', 'return_air_temp', 'return_air_wet_bulb', 'supply_air_temp',
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

type CanvasProps = {
  data: Series
  shown: string[]
  view: Span
  follows: boolean
  targets: Assessment['targets']
  onZoom: (factor: number, about: number) => void
  onSlide: (ms: number) => void
}

function Canvas(props: CanvasProps) {
  const { data, shown, onZoom, onSlide } = props
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const latest = useRef(props)
  const dragged = useRef<number | null>(null)
  useEffect(() => {
    latest.current = props
  })
  useLayoutEffect(() => {
    let request = 0
    const paint = () => {
      const target = canvas.current
      if (target) draw(target, latest.current)
      request = requestAnimationFrame(paint)
    }
    request = requestAnimationFrame(paint)
    return () => cancelAnimationFrame(request)
  }, [])
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

/** Draw every strip. Runs each frame, so it reads what it needs and keeps nothing. */
function draw(canvas: HTMLCanvasElement, props: CanvasProps): void {
  const ratio = window.devicePixelRatio || 1
  const width = canvas.clientWidth
  const height = canvas.clientHeight
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio)
    canvas.height = Math.round(height * ratio)
  }
  const pen = canvas.getContext('2d')
  if (!pen) return
  const style = getComputedStyle(canvas)
  const color = (name: string) => style.getPropertyValue(name)
  pen.setTransform(ratio, 0, 0, ratio, 0, 0)
  pen.clearRect(0, 0, width, height)
  pen.font = `12px ${style.fontFamily}`
  const view = props.follows ? following(props.view) : props.view
  const traces = props.shown.flatMap((key) => {
    const trace = props.data.traces.find((one) => one.key === key)
    return trace ? [trace] : []
  })
  const each = (height - FOOT) / Math.max(traces.length, 1)
  traces.forEach((trace, i) => {
    const box = {
      left: LEFT,
      right: width - RIGHT,
      top: i * each + HEAD,
      bottom: (i + 1) * each - 4,
    }
    drawStrip(pen, trace, view, box, props, color)
  })
  pen.fillStyle = color('--ink-soft')
  pen.textAlign = 'center'
  for (const at of timeTicks(view, width)) {
    const x = LEFT + ((at - view.from) / (view.to - view.from)) * (width - LEFT - RIGHT)
    if (x > LEFT + 14 && x < width - 20) pen.fillText(timeLabel(at, view), x, height - 6)
  }
  drawMarks(pen, props.data, view, { width, height: height - FOOT }, color)
}

/** While following, the window glides between answers instead of jumping. */
function following(view: Span): Span {
  const now = Date.now()
  return { from: now - (view.to - view.from), to: now }
}

type Box = { left: number; right: number; top: number; bottom: number }

function drawStrip(
  pen: CanvasRenderingContext2D,
  trace: Trace,
  view: Span,
  box: Box,
  props: CanvasProps,
  color: (name: string) => string,
): void {
  const columns = withLive(trace, view)
  const target = props.targets[trace.key]
  const around = target ? [target.low, target.high] : []
  const shape = layOutStrip(columns, around, view, box, LEAST_RANGE)
  pen.save()
  pen.beginPath()
  pen.rect(box.left, box.top, box.right - box.left, box.bottom - box.top)
  pen.clip()
  pen.fillStyle = color('--sheet')
  pen.fillRect(box.left, box.top, box.right - box.left, box.bottom - box.top)
  pen.fillStyle = color('--rule')
  for (const [from, to] of trace.steady) {
    pen.fillRect(shape.x(from), box.top, shape.x(to) - shape.x(from), box.bottom - box.top)
  }
  if (target) drawBracket(pen, shape.y(target.low), shape.y(target.high), box, color)
  const ink = color(trace.side === 'low' ? '--low' : trace.side === 'high' ? '--high' : '--ink')
  const gap = Math.max(((view.to - view.from) / 600) * 4, 12_000)
  for (const run of runs(columns, gap)) drawRun(pen, run, shape, ink)
  pen.restore()
  pen.fillStyle = color('--ink-soft')
  pen.textAlign = 'right'
  for (const tick of shape.ticks) {
    const y = shape.y(tick)
    if (y > box.top + 6 && y < box.bottom - 2) {
      pen.fillText(formatNumber(tick, tick % 1 === 0 ? 0 : 1), box.left - 6, y + 4)
    }
  }
  pen.strokeStyle = color('--rule-strong')
  pen.lineWidth = 1
  pen.strokeRect(box.left + 0.5, box.top + 0.5, box.right - box.left - 1, box.bottom - box.top - 1)
  pen.textAlign = 'left'
  pen.fillStyle = color('--ink')
  const last = columns.findLast((one) => one[0] <= view.to)
  const value = last ? ` ${formatNumber(last[1], trace.decimals)} ${trace.unit}` : ''
  pen.font = `bold 13px ${getFont(pen)}`
  pen.fillText(trace.label + value, box.left + 2, box.top - 6)
  pen.font = `12px ${getFont(pen)}`
  if (trace.steady.some(([, to]) => to > view.from)) {
    pen.fillStyle = color('--ink-soft')
    pen.textAlign = 'right'
    pen.fillText('shaded: steady', box.right - 2, box.top - 6)
  }
}

function getFont(pen: CanvasRenderingContext2D): string {
  return pen.font.replace(/^.*?px /, '')
}

function drawBracket(
  pen: CanvasRenderingContext2D,
  low: number,
  high: number,
  box: Box,
  color: (name: string) => string,
): void {
  pen.strokeStyle = color('--ink')
  pen.lineWidth = 2
  pen.beginPath()
  pen.moveTo(box.right - 12, low)
  pen.lineTo(box.right - 5, low)
  pen.lineTo(box.right - 5, high)
  pen.lineTo(box.right - 12, high)
  pen.stroke()
  pen.lineWidth = 1
  pen.setLineDash([3, 4])
  pen.beginPath()
  for (const y of [low, high]) {
    pen.moveTo(box.left, y)
    pen.lineTo(box.right - 14, y)
  }
  pen.stroke()
  pen.setLineDash([])
}

/** A trace's columns, with what has come since they were asked for. */
function withLive(trace: Trace, view: Span): readonly Column[] {
  const columns = trace.rows as Column[]
  const last = columns.at(-1)?.[0] ?? view.from
  const rows = liveRows(trace.key)
  if ((rows.at(-1)?.[0] ?? 0) <= last) return columns
  const fresh = rows.filter(([at]) => at > last)
  return [...columns, ...fresh.map(([at, value]): Column => [at, value, value, value])]
}

function drawRun(
  pen: CanvasRenderingContext2D,
  run: readonly Column[],
  shape: { x: (at: number) => number; y: (value: number) => number },
  ink: string,
): void {
  pen.fillStyle = ink
  pen.globalAlpha = 0.22
  pen.beginPath()
  run.forEach(([at, , , high], i) =>
    i === 0 ? pen.moveTo(shape.x(at), shape.y(high)) : pen.lineTo(shape.x(at), shape.y(high)),
  )
  for (let i = run.length - 1; i >= 0; i -= 1) {
    const column = run[i]
    if (column) pen.lineTo(shape.x(column[0]), shape.y(column[2]))
  }
  pen.fill()
  pen.globalAlpha = 1
  pen.strokeStyle = ink
  pen.lineWidth = 1.8
  pen.lineJoin = 'round'
  pen.beginPath()
  run.forEach(([at, mean], i) =>
    i === 0 ? pen.moveTo(shape.x(at), shape.y(mean)) : pen.lineTo(shape.x(at), shape.y(mean)),
  )
  pen.stroke()
}

function drawMarks(
  pen: CanvasRenderingContext2D,
  data: Series,
  view: Span,
  size: { width: number; height: number },
  color: (name: string) => string,
): void {
  pen.strokeStyle = color('--ink')
  pen.fillStyle = color('--ink')
  pen.lineWidth = 1.5
  pen.textAlign = 'left'
  for (const mark of data.marks) {
    if (mark.at < view.from || mark.at > view.to) continue
    const share = (mark.at - view.from) / (view.to - view.from)
    const x = LEFT + share * (size.width - LEFT - RIGHT)
    pen.setLineDash([2, 3])
    pen.beginPath()
    pen.moveTo(x, HEAD)
    pen.lineTo(x, size.height - 4)
    pen.stroke()
    pen.setLineDash([])
    pen.fillText(mark.label, x + 4, HEAD + 13)
  }
}

/** The present, for asking; the drawing itself glides every frame. */
function useNow(runs: boolean): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    if (!runs) return
    const timer = setInterval(() => setNow(Date.now()), 3_000)
    return () => clearInterval(timer)
  }, [runs])
  return now
}
