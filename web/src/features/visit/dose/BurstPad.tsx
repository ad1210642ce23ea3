import { useState } from 'react'
import { api } from '../../../api/client'
import { useCylinders, useScale } from '../../../api/queries'
import type { Advice, Cylinder, Units, Visit } from '../../../api/types'
import { formatNumber, numberIn } from '../../../lib/format'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Panel } from '../../../ui/Panel'
import { Care } from '../../../ui/Care'
import { LoadState } from '../../../ui/LoadState'
import { Cylinders } from './Cylinders'
import { DosePicture } from './DosePicture'
import { ScaleRow } from './ScaleRow'
import { serverNow } from '../../../state/clock'

type Props = {
  visit: Visit
  units: Units
  /** What is advised; null where a dose is written down that nobody advised. */
  advice: Advice | null
  removes: boolean
  onClose: () => void
}

/** Whatever pours on a simulated system is shut with the stop. */
function shutValve(visit: Visit, units: Units) {
  if (!visit.is_simulated) return
  void api
    .POST('/api/visits/{visit_id}/yard/valve', {
      params: { path: { visit_id: visit.id }, query: { units } },
      body: { is_open: false },
    })
    .catch(() => undefined)
}

/** From this many times what was advised, it is asked whether that was meant. */
const FAR_MORE = 2

/** One thumb at the unit: which cylinder, what the scale says has gone, and a stop that is loud. */
export function BurstPad({ visit, units, advice, removes, onClose }: Props) {
  const cylinders = useCylinders()
  const [typed, setText] = useState<string | null>(null)
  const [zero, setZero] = useState(() => serverNow() - 3_000)
  const scale = useScale(visit, zero, removes)
  const [stopped, setStopped] = useState(false)
  const [sure, setSure] = useState(false)
  const [chosen, setChosen] = useState<string | null>(null)
  const advised = advice?.amount ?? 0
  const text = typed ?? (scale && scale.gone > 0.2 ? String(scale.gone) : '')
  const amount = numberIn(text) ?? 0
  const isAmount = amount > 0
  const isFar = isAmount && advised > 0 && amount > FAR_MORE * advised
  const step = units === 'ip' ? 0.5 : 10
  const unit = units === 'ip' ? 'oz' : 'g'
  if (stopped) return <Stopped onBack={() => setStopped(false)} />
  return (
    <Panel open onClose={onClose} title={removes ? 'Take out' : 'Give'}>
      <LoadState of={cylinders}>
        {(all) => {
          const fits = fitting(all, visit, removes)
          const id = chosen ?? usedLast(visit, fits)?.id ?? fits[0]?.id ?? null
          return (
            <>
              <Care word="Care:">
                {removes
                  ? 'Into a recovery cylinder, never to air. Gloves and eye protection.'
                  : `Short bursts into the suction side, superheat never under ${units === 'ip' ? '5 °F' : '2.8 K'}. Gloves and eye protection.`}{' '}
                {advice?.high_side}
                {visit.system.safety_class !== 'A1' &&
                  ` ${visit.system.refrigerant} is flammable (${visit.system.safety_class}): ventilate, no ignition source, rated tools, maker’s limits.`}
              </Care>
              <DosePicture
                removes={removes}
                isLiquid={visit.system.leaves_cylinder_as === 'liquid'}
                bursts={removes ? 1 : Math.max(advice?.bursts ?? 1, 1)}
                share={advised > 0 ? amount / advised : 0}
              />
              <Cylinders {...{ all, fits, visit, units }} chosen={id} onChoose={setChosen} />
              {scale && (
                <ScaleRow
                  visit={visit}
                  units={units}
                  scale={scale}
                  pours={!removes}
                  onZero={() => {
                    setText(null)
                    setZero(serverNow())
                  }}
                />
              )}
              <form
                id="dose"
                onSubmit={(event) => {
                  event.preventDefault()
                  if (!isAmount || id === null || (isFar && !sure)) return
                  writeOn(visit.id, 'doses', { cylinder_id: id, amount, removes, sure }, units)
                  onClose()
                }}
              >
                <p className="mt-3 text-soft">
                  By the scale, has gone {removes ? 'in' : 'out'}
                  {advised > 0 && ` (advised ${formatNumber(advised, 1)} ${unit})`}
                </p>
                <div className="flex items-center gap-2">
                  <Button
                    aria-label={`Less by ${step} ${unit}`}
                    className="h-16 w-16 text-2xl font-bold"
                    onClick={() => setText(stepped(amount - step))}
                  >
                    −
                  </Button>
                  <label className="flex flex-1 items-baseline justify-center gap-2">
                    <span className="sr-only">Amount, {unit}</span>
                    <input
                      autoFocus={!isTouch}
                      inputMode="decimal"
                      value={text}
                      placeholder="0"
                      onChange={(event) => setText(event.target.value)}
                      className="h-16 w-32 rounded border-2 border-ink bg-ground text-center text-[2.2rem] font-bold tabular-nums"
                    />
                    <span className="text-xl">{unit}</span>
                  </label>
                  <Button
                    aria-label={`More by ${step} ${unit}`}
                    className="h-16 w-16 text-2xl font-bold"
                    onClick={() => setText(stepped(amount + step))}
                  >
                    +
                  </Button>
                </div>
                {advice && advised > 0 && !removes && (
                  <Bursts visit={visit} advice={advice} amount={amount} units={units} />
                )}
                {isFar && (
                  <label className="mt-2 flex min-h-11 items-center gap-3 border-l-4 border-alarm pl-2">
                    <input
                      type="checkbox"
                      className="h-6 w-6"
                      checked={sure}
                      onChange={(event) => setSure(event.target.checked)}
                    />
                    That is {formatNumber(amount / advised, 1)} times what was advised. {unit}, by
                    the scale, and meant?
                  </label>
                )}
              </form>
              {!removes && advice && (
                <p className="mt-2 text-[0.94rem] leading-snug">
                  <strong>Cylinder: {advice.pouring.toLowerCase()}.</strong> {advice.pouring_reason}{' '}
                  {advice.hose}
                </p>
              )}
              <div className="sticky -bottom-2 bg-ground pb-3">
                <Beside visit={visit} />
                <div className="mt-1 grid grid-cols-2 gap-3">
                  <button
                    type="button"
                    data-stop
                    onClick={() => {
                      setStopped(true)
                      shutValve(visit, units)
                    }}
                    className="min-h-16 rounded border-4 border-alarm bg-sheet text-[1.6rem] font-bold"
                  >
                    STOP
                  </button>
                  <Button
                    type="submit"
                    form="dose"
                    className="min-h-16 border-2 border-ink text-[1.1rem] font-bold"
                    disabled={!isAmount || id === null || (isFar && !sure)}
                  >
                    Write it down
                  </Button>
                </div>
              </div>
            </>
          )
        }}
      </LoadState>
    </Panel>
  )
}

const isTouch = window.matchMedia('(pointer: coarse)').matches

/** Superheat and subcooling as they stand, beside STOP: the pour is watched by them. */
function Beside({ visit }: { visit: Visit }) {
  const numbers = visit.stage[0]?.numbers ?? []
  return (
    <dl className="grid grid-cols-2 gap-3 border-t border-rule pt-1.5" aria-live="polite">
      {['superheat', 'subcooling'].map((key) => {
        const one = numbers.find((each) => each.key === key)
        return (
          <div key={key} data-beside={key} className="flex items-baseline gap-2">
            <dt className="text-soft">{one?.label}</dt>
            <dd className="text-[1.4rem] leading-none font-bold">
              {one?.text || '—'} {/^[↑↓✓]/.exec(one?.words[0] ?? '')?.[0]}
            </dd>
          </div>
        )
      })}
    </dl>
  )
}

const stepped = (amount: number) => String(Math.max(Math.round(amount * 10) / 10, 0))

/** Cylinders that may be used here, and only those. */
function fitting(all: Cylinder[], visit: Visit, removes: boolean): Cylinder[] {
  const kind = removes ? 'recovery' : 'charging'
  return all.filter((one) => one.kind === kind && one.refrigerant === visit.system.refrigerant)
}

/** The cylinder this visit used last, if it fits: the one in the hand. */
function usedLast(visit: Visit, fits: Cylinder[]): Cylinder | undefined {
  const last = visit.cylinders_used.findLast((id) => fits.some((one) => one.id === id))
  return fits.find((one) => one.id === last)
}

type BurstsProps = { visit: Visit; advice: Advice; amount: number; units: Units }

/** Which burst it is, and what to see before the next one. */
function Bursts({ visit, advice, amount, units }: BurstsProps) {
  const each = advice.amount / Math.max(advice.bursts, 1)
  const done = Math.min(Math.floor(amount / each + 0.02), advice.bursts)
  const superheat = visit.assessment?.derived.superheat ?? null
  const [unit, floor] = units === 'ip' ? ['°F', 5] : ['K', 2.8]
  const now = superheat === null ? '' : ` It reads ${formatNumber(superheat, 1)} ${unit}.`
  if (done >= advice.bursts) {
    return (
      <p className="mt-2 font-bold" data-burst="done" role="status">
        All of it is in. Shut the cylinder and write it down.
      </p>
    )
  }
  return (
    <div className="mt-2" data-burst={done + 1} role="status">
      <p className="font-bold">
        Burst {done + 1} of {advice.bursts}: up to {formatNumber(each * (done + 1), 1)}{' '}
        {advice.amount_unit} by the scale.
      </p>
      <p className="text-[0.94rem] leading-snug">
        {done > 0 && 'Shut first: let the line temperatures come together. '}
        Superheat not under {floor} {unit}.{now}
      </p>
    </div>
  )
}

/** Nothing else on the screen until the valve is shut. */
function Stopped({ onBack }: { onBack: () => void }) {
  return (
    <Panel open onClose={onBack} title="STOP">
      <p className="text-[2rem] leading-tight font-bold" role="alert">
        Shut the cylinder valve. Hose valve too.
      </p>
      <p className="mt-3 text-lg">
        Watch superheat and the compressor. If it knocks or frosts back, switch the system off. Then
        write down what the scale says has gone, even if it was too much.
      </p>
      <Button weight="do" className="mt-4 min-h-16 w-full text-lg" onClick={onBack}>
        It is shut. Write it down
      </Button>
    </Panel>
  )
}
