import type { Circuit, Standing, Units } from '../../../api/types'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { Heading } from '../../../ui/Heading'
import type { PanelName } from '../Panels'
import { ChargeMode } from './ChargeMode'
import { LiveSum } from './LiveSum'
import { MoveOn } from './MoveOn'
import { WayPicture } from './WayPicture'

type Props = {
  visit: Standing
  circuit: Circuit
  units: Units
  onForm: (form: string) => void
  onTest: (key: string) => void
  onPanel: (panel: PanelName) => void
}

/** The opened circuit: where it stands, what leads on, what is missing for it. */
export function CircuitCard({ visit, circuit, units, onForm, onTest, onPanel }: Props) {
  const [next, ...others] = circuit.moves
  const isOpen = visit.state !== 'closed'
  const runs = !circuit.is_empty && circuit.state !== 'broken'
  return (
    <section aria-label="The circuit" data-circuit={circuit.state}>
      <Heading aside={circuit.taken_up ? 'taken up from an earlier visit' : ''}>Circuit</Heading>
      <div className="border-b border-l-8 border-b-rule border-l-ink bg-sheet px-3 py-2">
        <p className="text-[1.7rem] leading-tight font-bold" role="status">
          {circuit.label}
        </p>
        <p className="leading-snug">{circuit.said}</p>
        {circuit.caution !== '' && <Care word="Care:">{circuit.caution}</Care>}
        <WayPicture drawn={circuit.drawn} />
        {circuit.live_sum && circuit.state !== 'isolated' && <LiveSum sum={circuit.live_sum} />}
        {isOpen && next && (
          <MoveOn
            key={next.to}
            {...{ visit, units, onForm, onTest }}
            move={next}
            shelf={shelfOf(circuit.state)}
            onShelf={() => onPanel(circuit.state === 'charged' ? 'recover' : 'dose')}
          />
        )}
        {isOpen && circuit.charge_mode !== '' && runs && (
          <ChargeMode {...{ visit, units, circuit }} />
        )}
        <Sums circuit={circuit} />
        {isOpen && others.length > 0 && (
          <details className="mt-2">
            <summary className="min-h-11 cursor-pointer py-2 text-soft">
              Another way from here
            </summary>
            {others.map((move) => (
              <MoveOn key={move.to} {...{ visit, units, move, onForm, onTest }} shelf="" />
            ))}
          </details>
        )}
        <Passed circuit={circuit} />
        <div className="mt-2 flex flex-wrap gap-2">
          <Button tight onClick={() => onPanel('settings')}>
            Machine’s settings
          </Button>
          <Button tight onClick={() => onPanel('ways')}>
            Ways to connect
          </Button>
        </div>
      </div>
    </section>
  )
}

/** Where refrigerant moves by the shelf: out of it, or into it. */
function shelfOf(state: string): string {
  if (state === 'charged') return 'Recover into a cylinder'
  return state === 'broken' ? 'Weigh in from a cylinder' : ''
}

/** What came out, what goes in first and with which phase, what is in it, the sum to write. */
function Sums({ circuit }: { circuit: Circuit }) {
  const { fill, fate } = circuit
  return (
    <>
      {circuit.recovered !== '' && (
        <p className="leading-snug">
          Recovered: <strong className="tabular-nums">{circuit.recovered}</strong>.{' '}
          {fate && ['recovered', 'opened'].includes(circuit.state) && (
            <span data-fate={fate.key}>
              {fate.label}. <span className="text-soft">{fate.said}</span>
            </span>
          )}
        </p>
      )}
      {circuit.sum !== '' ? (
        <p className="mt-1 leading-snug" data-sum>
          Write inside the door: <strong className="text-lg tabular-nums">{circuit.sum}</strong>
        </p>
      ) : (
        circuit.weighed_in !== '' && (
          <p className="leading-snug">
            In it by the scale: <strong className="tabular-nums">{circuit.weighed_in}</strong>
          </p>
        )
      )}
      {fill && ['isolated', 'broken', 'evacuating'].includes(circuit.state) && (
        <div className="mt-1 leading-snug" data-fill>
          <p>{fill.said}</p>
          {circuit.state === 'isolated' && (
            <p className="mt-1">
              <strong>{fill.phase}.</strong> {fill.phase_how}{' '}
              <span className="text-soft">{fill.phase_reason}</span>
            </p>
          )}
          <details>
            <summary className="min-h-11 cursor-pointer py-2 text-soft">Other schools</summary>
            <ul className="list-disc pl-5 text-[0.94rem]">
              {fill.others.map((said) => (
                <li key={said}>{said}</li>
              ))}
            </ul>
          </details>
        </div>
      )}
    </>
  )
}

/** What was passed over on the way, and why: as it is printed. */
function Passed({ circuit }: { circuit: Circuit }) {
  const passed = circuit.way.filter((one) => one.stands === 'passed_over')
  const why = circuit.way.map((one) => one.reason).filter((reason) => reason !== '')
  if (passed.length === 0) return null
  return (
    <p className="mt-2 border-l-4 border-alarm pl-2 leading-snug" data-passed={passed.length}>
      Passed over: {passed.map((one) => one.label.toLowerCase()).join(', ')}
      {why.length > 0 ? `, because: ${why.join('; ')}` : '. Nobody wrote down why'}.
    </p>
  )
}
