import type { Assessment, SeenSpan, Series, Trace } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { linearScale, type Scale } from '../../lib/scale'
import { runs, widened, type Column, type Span } from '../../lib/stripGeometry'
import { liveRows } from '../../state/live'
import { serverNow } from '../../state/clock'

export const LEFT = 46
export const RIGHT = 8
export const FOOT = 22
export const HEAD = 20
const MARK_LINE = 16

export type CanvasProps = {
  data: Series
  shown: string[]
  view: Span
  follows: boolean
  targets: Assessment['targets']
  onZoom: (factor: number, about: number) => void
  onSlide: (ms: number) => void
}

/** Draw every strip. Runs each frame, so it reads what it needs and keeps nothing. */
export function draw(canvas: HTMLCanvasElement, props: CanvasProps): void {
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
  pen.font = `14px ${style.fontFamily}`
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
  for (const { at, text } of props.data.times) {
    const x = LEFT + ((at - view.from) / (view.to - view.from)) * (width - LEFT - RIGHT)
    if (x > LEFT + 14 && x < width - 20) pen.fillText(text, x, height - 6)
  }
  drawMarks(pen, props.data, view, { width, height: height - FOOT }, color)
}

/** While following, the window glides between answers instead of jumping. */
function following(view: Span): Span {
  const now = serverNow()
  return { from: now - (view.to - view.from), to: now }
}

type Shape = { x: Scale; y: Scale }
type Box = { left: number; right: number; top: number; bottom: number }

function drawStrip(
  pen: CanvasRenderingContext2D,
  trace: Trace,
  view: Span,
  box: Box,
  props: CanvasProps,
  color: (name: string) => string,
): void {
  const fresh = liveSince(trace, view)
  const columns = [...(trace.rows as Column[]), ...fresh]
  const target = props.targets[trace.key]
  const range = widened(trace, fresh, target ? [target.low, target.high] : [])
  const shape: Shape = {
    x: linearScale([view.from, view.to], [box.left, box.right]),
    y: linearScale(range, [box.bottom, box.top]),
  }
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
  for (const span of props.data.spans) drawSpan(pen, span, shape.x, box, color)
  if (target) drawBracket(pen, shape.y(target.low), shape.y(target.high), box, color)
  const ink = color(trace.side === 'low' ? '--low' : trace.side === 'high' ? '--high' : '--ink')
  const gap = Math.max(((view.to - view.from) / 600) * 4, 12_000)
  for (const run of runs(columns, gap)) drawRun(pen, run, shape, ink)
  pen.restore()
  pen.fillStyle = color('--ink-soft')
  pen.textAlign = 'right'
  for (const tick of trace.ticks) {
    const y = shape.y(tick.value)
    if (y > box.top + 6 && y < box.bottom - 2) pen.fillText(tick.text, box.left - 6, y + 4)
  }
  pen.strokeStyle = color('--rule-strong')
  pen.lineWidth = 1
  pen.strokeRect(box.left + 0.5, box.top + 0.5, box.right - box.left - 1, box.bottom - box.top - 1)
  pen.textAlign = 'left'
  pen.fillStyle = color('--ink')
  const last = columns.findLast((one) => one[0] <= view.to)
  const value = last ? ` ${formatNumber(last[1], trace.decimals)} ${trace.unit}` : ''
  pen.font = `bold 14px ${getFont(pen)}`
  pen.fillText(trace.label + value, box.left + 2, box.top - 6)
  pen.font = `14px ${getFont(pen)}`
  if (trace.steady.some(([, to]) => to > view.from)) {
    pen.fillStyle = color('--ink-soft')
    pen.textAlign = 'right'
    pen.fillText('shaded: steady', box.right - 2, box.top - 6)
  }
}

const HATCH = 9

/** A span a box's log shows by itself: hatched, with its word where there is room for it. */
function drawSpan(
  pen: CanvasRenderingContext2D,
  span: SeenSpan,
  x: Scale,
  box: Box,
  color: (name: string) => string,
): void {
  const [left, right] = [Math.max(x(span.since), box.left), Math.min(x(span.until), box.right)]
  if (right <= left) return
  pen.save()
  pen.beginPath()
  pen.rect(left, box.top, right - left, box.bottom - box.top)
  pen.clip()
  pen.strokeStyle = color('--rule-strong')
  pen.lineWidth = 1
  const tall = box.bottom - box.top
  for (let at = left - tall; at < right; at += HATCH) {
    pen.beginPath()
    pen.moveTo(at, box.bottom)
    pen.lineTo(at + tall, box.top)
    pen.stroke()
  }
  pen.restore()
  const wide = pen.measureText(span.label).width
  if (wide + 8 > right - left) {
    drawUpright(pen, span.label, { left, right, top: box.top, bottom: box.bottom }, color)
    return
  }
  pen.fillStyle = color('--sheet')
  pen.fillRect(left + 1, box.top + 1, wide + 8, 19)
  pen.fillStyle = color('--ink')
  pen.textAlign = 'left'
  pen.fillText(span.label, left + 5, box.top + 15)
}

/** A word that stands upright in a span too narrow for it. */
function drawUpright(
  pen: CanvasRenderingContext2D,
  word: string,
  box: Box,
  color: (name: string) => string,
): void {
  const wide = pen.measureText(word).width
  if (box.right - box.left < 18 || wide + 12 > box.bottom - box.top) return
  pen.save()
  pen.translate((box.left + box.right) / 2, box.top + 6)
  pen.rotate(Math.PI / 2)
  pen.fillStyle = color('--sheet')
  pen.fillRect(-3, -9, wide + 6, 18)
  pen.fillStyle = color('--ink')
  pen.textAlign = 'left'
  pen.fillText(word, 0, 5)
  pen.restore()
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

/** What has come since a trace was asked for. */
function liveSince(trace: Trace, view: Span): Column[] {
  const last = trace.rows.at(-1)?.[0] ?? view.from
  return liveRows(trace.key)
    .filter(([at]) => at > last)
    .map(([at, value]): Column => [at, value, value, value])
}

function drawRun(
  pen: CanvasRenderingContext2D,
  run: readonly Column[],
  shape: Shape,
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
    if (mark.row >= 0) pen.fillText(mark.label, x + 4, HEAD + 13 + mark.row * MARK_LINE)
  }
}
