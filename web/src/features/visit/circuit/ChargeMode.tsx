import type { Circuit, Units, Visit } from '../../../api/types'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'
import { note } from '../RunClock'

type Kind = 'charge_mode_full' | 'charge_mode_partial' | 'charge_mode_ended' | 'charge_mode_lapsed'

const SAID: Record<string, string> = {
  needed: 'Not on. An inverter is judged only at the speed its maker’s mode states.',
  full: 'On, at full speed.',
  partial: 'On, at the partial speed its maker states. Good for two hours.',
  ended: 'Ended, settings put back.',
  lapsed: 'It ended by itself. What was read since does not count.',
}

/** An inverter's charge mode: on, at which speed, ended, or gone off by itself. */
export function ChargeMode(props: { visit: Visit; units: Units; circuit: Circuit }) {
  const { visit, units, circuit } = props
  const mode = circuit.charge_mode
  const say = (kind: Kind) => note(visit, kind, units)
  const isOn = mode === 'full' || mode === 'partial'
  return (
    <div className="mt-2 border-t border-rule pt-2" data-charge-mode={mode}>
      <p className="leading-snug">
        <strong>Charge mode.</strong> {SAID[mode]}
      </p>
      {!isOn && (
        <Care word="Care:">
          Live parts stand open at the board: an inverter’s capacitors stay charged for minutes.
        </Care>
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        {isOn ? (
          <>
            <Button tight onClick={() => say('charge_mode_ended')}>
              Ended, put back
            </Button>
            <Button tight weight="quiet" onClick={() => say('charge_mode_lapsed')}>
              It ended by itself
            </Button>
          </>
        ) : (
          <>
            <Button tight onClick={() => say('charge_mode_full')}>
              On: full speed confirmed
            </Button>
            <Button tight weight="quiet" onClick={() => say('charge_mode_partial')}>
              On: its partial speed
            </Button>
          </>
        )}
      </div>
    </div>
  )
}
