import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useRefrigerants } from '../../api/queries'
import { newId } from '../../lib/ids'
import { post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Heading } from '../../ui/Heading'

/** What is met most; the rest is one choice further. */
const COMMON = ['R-410A', 'R-454B', 'R-32', 'R-22', 'R-407C']

/** A visit to a machine nobody wrote down yet: two choices, and the numbers can come. */
export function StartVisit() {
  const refrigerants = useRefrigerants()
  const { units } = usePreferences()
  const navigate = useNavigate()
  const [fluid, setFluid] = useState('')
  const all = refrigerants.status === 'ready' ? refrigerants.data.map((one) => one.name) : COMMON
  const start = (device: 'txv' | 'fixed_orifice') => {
    const [site, system, visit] = [newId(), newId(), newId()]
    const day = new Date().toLocaleDateString(undefined, { month: 'short', day: 'numeric' })
    post('/api/sites', { id: site, name: `New site, ${day}` }, { id: site, units })
    const made = { id: system, site_id: site, name: 'New system', refrigerant: fluid }
    post('/api/systems', { ...made, metering_device: device }, { id: system, units })
    post('/api/visits', { id: visit, system_id: system }, { id: visit, units, visitId: visit })
    void navigate(`/visits/${visit}`)
  }
  return (
    <section aria-label="Start a visit" className="mb-6">
      <Heading aside="the rest of the plate can wait">Start a visit</Heading>
      <p className="mt-2 font-bold" id="start-fluid">
        1. Refrigerant, from the plate
      </p>
      <div role="radiogroup" aria-labelledby="start-fluid" className="mt-1 flex flex-wrap gap-2">
        {COMMON.map((name) => (
          <button
            key={name}
            type="button"
            role="radio"
            aria-checked={fluid === name}
            onClick={() => setFluid(name)}
            className="min-h-12 rounded border-2 border-rule-strong bg-sheet px-4 text-[1.1rem] font-bold aria-checked:border-ink aria-checked:bg-ink aria-checked:text-ground"
          >
            {name}
          </button>
        ))}
        <select
          aria-label="Another refrigerant"
          value={COMMON.includes(fluid) ? '' : fluid}
          onChange={(event) => setFluid(event.target.value)}
          className="h-12 rounded border-2 border-rule-strong bg-sheet px-2"
        >
          <option value="">another</option>
          {all
            .filter((name) => !COMMON.includes(name))
            .map((name) => (
              <option key={name}>{name}</option>
            ))}
        </select>
      </div>
      <p className="mt-3 font-bold">2. What meters it, before the indoor coil</p>
      <div className="mt-1 grid max-w-xl grid-cols-2 gap-3">
        <Device
          name="Expansion valve"
          below="a bulb on the suction line, or an electronic valve"
          isReady={fluid !== ''}
          onChoose={() => start('txv')}
        >
          <path d="M6 44H40M64 44H98" />
          <path d="M40 32L64 56V32L40 56Z" />
          <path d="M52 44V24M42 24H62" />
          <path d="M62 24Q86 20 84 10" strokeWidth="2" />
          <rect x="72" y="4" width="24" height="8" rx="4" />
        </Device>
        <Device
          name="Fixed orifice"
          below="a piston, a cap tube: no bulb, nothing moves"
          isReady={fluid !== ''}
          onChoose={() => start('fixed_orifice')}
        >
          <path d="M6 32H40L48 41H56L64 32H98M6 56H40L48 47H56L64 56H98" />
        </Device>
      </div>
      {fluid === '' && (
        <p className="mt-1 text-[0.92rem] text-soft">Choose the refrigerant first.</p>
      )}
    </section>
  )
}

type DeviceProps = {
  name: string
  below: string
  isReady: boolean
  onChoose: () => void
  children: React.ReactNode
}

function Device({ name, below, isReady, onChoose, children }: DeviceProps) {
  return (
    <button
      type="button"
      disabled={!isReady}
      onClick={onChoose}
      className="flex flex-col items-center rounded border-2 border-ink bg-sheet p-2 text-center disabled:opacity-50"
    >
      <svg
        viewBox="0 0 104 64"
        aria-hidden
        fill="none"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
        className="h-20 w-full"
      >
        {children}
      </svg>
      <span className="font-bold">{name}</span>
      <span className="text-[0.88rem] leading-snug text-soft">{below}</span>
    </button>
  )
}
