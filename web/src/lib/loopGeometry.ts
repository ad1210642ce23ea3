import type { Loop, Target } from '../api/types'
import { linearScale, ticks, type Scale } from './scale'

export type Point = { x: number; y: number }
export type Stretch = { points: Point[]; side: 'high' | 'low'; sure: boolean }
export type Mark = Point & { key: string; label: string; side: string; value: number }
export type Gap = {
  key: string
  x: number
  level: number
  line: number
  bracket: { from: number; to: number } | null
}
export type Geometry = {
  y: Scale
  ticks: { value: number; y: number }[]
  levels: { side: string; label: string; value: number; from: Point; to: Point }[]
  stretches: Stretch[]
  marks: Mark[]
  gaps: Gap[]
  air: { key: string; label: string; value: number; from: number; to: number; y: number }[]
  offScale: { x: number; value: number; label: string } | null
}

/** Where each station stands, as a share of the drawing's width. */
export const PLACE: Record<string, number> = {
  compressor_out: 0.015,
  discharge_line: 0.075,
  condenser: 0.19,
  liquid_line: 0.34,
  drier_in: 0.4,
  drier_out: 0.44,
  liquid_line_indoor: 0.49,
  metering_device: 0.54,
  evaporator: 0.64,
  evaporator_outlet: 0.745,
  suction_line: 0.815,
  compressor_in: 0.985,
}
const CONDENSER = { from: 0.11, to: 0.27 }
const EVAPORATOR = { from: 0.56, to: 0.72 }
const METERING = { from: 0.525, to: 0.555 }

const AIR = [
  { key: 'outdoor_air_temp', label: 'Outdoor air', ...CONDENSER },
  { key: 'condenser_leaving_air_temp', label: 'Leaving air', ...CONDENSER },
  { key: 'return_air_temp', label: 'Return air', ...EVAPORATOR },
  { key: 'supply_air_temp', label: 'Supply air', ...EVAPORATOR },
]

/** Everything the Loop drawing needs, in its own pixels. Height is temperature. */
export function layOutLoop(
  loop: Loop,
  targets: Record<string, Target>,
  width: number,
  height: number,
): Geometry {
  const high = loop.levels.find((level) => level.side === 'high')
  const low = loop.levels.find((level) => level.side === 'low')
  const discharge = temperature(loop, 'discharge_line')
  const brackets = loop.gaps.flatMap((gap) => bracketTemps(gap.key, gap.level, targets) ?? [])
  const onScale = [
    ...loop.levels.flatMap((level) => [level.enters, level.leaves]),
    ...loop.stations.flatMap((s) =>
      s.temperature === null || s.key === 'discharge_line' ? [] : [s.temperature],
    ),
    ...Object.values(loop.air),
    ...brackets,
  ]
  const [coldest, hottest] = [Math.min(...onScale), Math.max(...onScale)]
  const room = Math.max(hottest - coldest, 10) * 0.11
  const y = linearScale([coldest - room, hottest + room], [height, 0])
  const at = (share: number, value: number): Point => ({ x: share * width, y: y(value) })

  return {
    y,
    ticks: ticks(coldest, hottest, 5).map((value) => ({ value, y: y(value) })),
    levels: loop.levels.map((level) => ({
      side: level.side,
      label: level.label,
      value: level.leaves,
      from: at(level.side === 'high' ? 0 : METERING.to, level.leaves),
      to: at(level.side === 'high' ? METERING.from : 1, level.leaves),
    })),
    stretches: [
      ...(high ? highSide(loop, high, at) : []),
      ...(low ? lowSide(loop, high, low, at) : []),
    ],
    marks: loop.stations.flatMap((station) => {
      const share = PLACE[station.key]
      return station.temperature === null || share === undefined || station.key === 'discharge_line'
        ? []
        : [
            {
              ...at(share, station.temperature),
              key: station.key,
              label: station.label,
              side: station.side,
              value: station.temperature,
            },
          ]
    }),
    gaps: loop.gaps.map((gap) => {
      const temps = bracketTemps(gap.key, gap.level, targets)
      return {
        key: gap.key,
        x: (PLACE[gap.station] ?? 0) * width,
        level: y(gap.level),
        line: y(gap.line),
        bracket: temps ? { from: y(temps[0]), to: y(temps[1]) } : null,
      }
    }),
    air: AIR.flatMap(({ key, label, from, to }) => {
      const value = loop.air[key]
      return value === undefined
        ? []
        : [{ key, label, value, from: from * width, to: to * width, y: y(value) }]
    }),
    offScale:
      discharge === null
        ? null
        : { x: (PLACE['discharge_line'] ?? 0) * width, value: discharge, label: 'Discharge line' },
  }
}

/** A target window as temperatures: above the level for superheat, below it for subcooling. */
function bracketTemps(
  key: string,
  level: number,
  targets: Record<string, Target>,
): [number, number] | null {
  const target = targets[key]
  if (!target) return null
  const sign = key === 'superheat' ? 1 : -1
  return [level + sign * target.low, level + sign * target.high]
}

function temperature(loop: Loop, key: string): number | null {
  return loop.stations.find((station) => station.key === key)?.temperature ?? null
}

type Placer = (share: number, value: number) => Point
type Level = Loop['levels'][number]

function measured(loop: Loop, keys: string[]): { share: number; value: number }[] {
  return keys.flatMap((key) => {
    const value = temperature(loop, key)
    const share = PLACE[key]
    return value === null || share === undefined ? [] : [{ share, value }]
  })
}

function highSide(loop: Loop, level: Level, at: Placer): Stretch[] {
  const condenser = [at(CONDENSER.from, level.enters), at(CONDENSER.to, level.leaves)]
  const liquid = measured(loop, ['liquid_line', 'drier_in', 'drier_out', 'liquid_line_indoor'])
  const last = liquid.at(-1)
  const first = condenser[0]
  const leaving = condenser[1]
  if (!first || !leaving) return []
  return [
    { side: 'high', sure: false, points: [{ x: at(0.03, level.enters).x, y: 0 }, first] },
    {
      side: 'high',
      sure: true,
      points: [...condenser, ...liquid.map((one) => at(one.share, one.value))],
    },
    {
      side: 'high',
      sure: false,
      points: last
        ? [at(last.share, last.value), at(METERING.from, last.value)]
        : [leaving, at(METERING.from, level.leaves)],
    },
  ]
}

function lowSide(loop: Loop, high: Level | undefined, level: Level, at: Placer): Stretch[] {
  const liquid = measured(loop, ['liquid_line', 'drier_in', 'drier_out', 'liquid_line_indoor']).at(
    -1,
  )
  const upstream = liquid?.value ?? high?.leaves
  const vapour = measured(loop, ['evaporator_outlet', 'suction_line', 'compressor_in'])
  const last = vapour.at(-1)
  const stretches: Stretch[] = [
    {
      side: 'low',
      sure: true,
      points: [
        at(METERING.to, level.enters),
        at(EVAPORATOR.from, level.enters),
        at(EVAPORATOR.to, level.leaves),
        ...vapour.map((one) => at(one.share, one.value)),
      ],
    },
  ]
  if (upstream !== undefined) {
    const drop = [at(METERING.from, upstream), at(METERING.to, level.enters)]
    stretches.unshift({ side: 'low', sure: high !== undefined, points: drop })
  }
  if (last && last.share < 0.98) {
    stretches.push({
      side: 'low',
      sure: false,
      points: [at(last.share, last.value), at(1, last.value)],
    })
  }
  return stretches
}

/** An SVG path through points. */
export function pathThrough(points: Point[]): string {
  return points
    .map(({ x, y }, i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`)
    .join('')
}
