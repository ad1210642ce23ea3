import { Toolbar } from 'radix-ui'
import { Suspense, type ReactNode } from 'react'
import type { Standing } from '../../../api/types'
import { later } from '../../../lib/later'
import { LoopStage } from './LoopStage'

const TargetMap = later(async () => (await import('../TargetMap')).TargetMap)
const TightnessFilm = later(async () => (await import('../tests/TightnessFilm')).TightnessFilm)
const Balance = later(async () => (await import('../Balance')).Balance)
const HeatLine = later(async () => (await import('../HeatLine')).HeatLine)
const ZonePlan = later(async () => (await import('../zones/ZonePlan')).ZonePlan)
const Strips = later(async () => (await import('../Strips')).Strips)

void ZonePlan.fetch() // the first picture of its kind of visit, while its numbers are on their way
void HeatLine.fetch()

export const DRAWINGS = ['Plan', 'Balance', 'Loop', 'Heat', 'Strips', 'Target map', 'Film'] as const
export type Drawing = (typeof DRAWINGS)[number]

type Props = {
  visit: Standing
  drawing: Drawing
  /** What stands under the drawing: what the instruments say of themselves. */
  foot: ReactNode
  /** What is waited for, as an arc over the drawing. */
  wait: ReactNode
  onDrawing: (drawing: Drawing) => void
  onRead: () => void
  onProbe: (key: string) => void
  onPlace: (channel: string, point: string) => void
}

/** The display: the Loop with its numbers; or the strips, or the target map, in its place. */
export function Stage({ visit, drawing, foot, wait, onDrawing, onRead, onProbe, onPlace }: Props) {
  return (
    <div data-stage-area className="flex h-full min-h-0 flex-col">
      <div
        className={`${drawing === 'Strips' ? 'h-[30rem]' : 'h-[332px] sm:h-[26rem]'} relative lg:h-auto lg:min-h-0 lg:flex-1`}
      >
        <Suspense fallback={null}>
          {drawing === 'Strips' ? (
            <Strips visit={visit} />
          ) : drawing === 'Plan' && visit.zones ? (
            <ZonePlan visit={visit} onRead={onRead} />
          ) : drawing === 'Balance' && visit.vehicle ? (
            <Balance of={visit.vehicle} />
          ) : drawing === 'Heat' && visit.heat ? (
            <HeatLine layouts={visit.heat.line} />
          ) : drawing === 'Film' ? (
            <TightnessFilm visit={visit} />
          ) : drawing === 'Target map' && visit.assessment ? (
            <TargetMap layouts={visit.target_map} />
          ) : (
            <LoopStage
              visitId={visit.id}
              stage={visit.stage}
              estimates={{
                condenser_saturation: visit.look?.condenser[0],
                evaporator_saturation: visit.look?.evaporator[0],
                subcooling: visit.look?.subcooling ?? undefined,
                superheat: visit.look?.superheat ?? undefined,
              }}
              instruments={visit.live?.instruments ?? []}
              onProbe={onProbe}
              onPlace={onPlace}
            />
          )}
        </Suspense>
        {wait}
      </div>
      <div className="flex shrink-0 flex-wrap items-center justify-between gap-x-3">
        <div className="min-w-0 flex-1">{foot}</div>
        {(!visit.look || visit.tests > 0) && (
          <Drawings of={drawing} among={drawingsOf(visit)} onDrawing={onDrawing} />
        )}
      </div>
    </div>
  )
}

/** The drawings of a visit: the film only where tests are to be shown, the line where it heats. */
export function drawingsOf(visit: Standing): readonly Drawing[] {
  const hasTarget = !visit.heat && !visit.vehicle && !visit.room && !visit.zones
  const shown = {
    Plan: visit.zones !== null,
    Balance: visit.vehicle !== null,
    Film: visit.tests > 0,
    Heat: visit.heat !== null,
    'Target map': hasTarget,
  }
  return DRAWINGS.filter((name) => !(name in shown) || shown[name as keyof typeof shown])
}

/** The drawing that a visit begins with, by its kind of plant. */
export function usualDrawing(visit: Standing): Drawing {
  if (visit.zones) return 'Plan'
  return visit.vehicle ? 'Balance' : 'Loop'
}

type DrawingsProps = { of: Drawing; among: readonly Drawing[]; onDrawing: (of: Drawing) => void }

/** Which drawing stands on the stage: ways to see the same visit. */
function Drawings({ of, among, onDrawing }: DrawingsProps) {
  return (
    <Toolbar.Root aria-label="Drawing" className="flex shrink-0 justify-end max-sm:hidden">
      {among.map((name) => (
        <Toolbar.Button
          key={name}
          aria-pressed={name === of}
          onClick={() => onDrawing(name)}
          className="min-h-11 border-b-4 border-transparent px-2.5 text-[0.94rem] text-soft aria-pressed:border-ink aria-pressed:font-bold aria-pressed:text-ink"
        >
          {name}
        </Toolbar.Button>
      ))}
    </Toolbar.Root>
  )
}
