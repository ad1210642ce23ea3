import type { ReactNode } from 'react'
import type { Connection, Units } from '../../../api/types'
import { formatNumber } from '../../../lib/format'
import { Care } from '../../../ui/Care'

type Props = {
  connections: Connection[]
  chosen: string
  units: Units
  onChoose: ((key: string) => void) | undefined
}

/** How it is connected, chosen on drawings of the port; below, what that changes. */
export function Ports({ connections, chosen, units, onChoose }: Props) {
  const one = connections.find((each) => each.key === chosen)
  return (
    <fieldset>
      <legend className="sr-only">How it is connected</legend>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {connections.map((each) => (
          <label
            key={each.key}
            data-connection={each.key}
            className="flex min-h-11 flex-col rounded border border-rule-strong p-1.5 has-checked:border-[3px] has-checked:border-ink has-checked:font-bold has-focus-visible:outline-3"
          >
            <input
              type="radio"
              name="connection"
              className="sr-only"
              checked={each.key === chosen}
              disabled={onChoose === undefined}
              onChange={() => onChoose?.(each.key)}
            />
            <Port of={each.key} />
            <span className="text-[0.94rem] leading-tight">{each.label}</span>
          </label>
        ))}
      </div>
      {one && <Changes one={one} units={units} />}
    </fieldset>
  )
}

/** What a way to connect changes: its burst, its hose, its purge; and how it is done. */
function Changes({ one, units }: { one: Connection; units: Units }) {
  const [unit, places] = units === 'ip' ? (['oz', 1] as const) : (['g', 0] as const)
  return (
    <div className="mt-2" data-changes={one.key}>
      <p className="leading-snug">{one.good_for}</p>
      <dl className="mt-1 grid grid-cols-[5rem_1fr] gap-x-2">
        <dt className="text-soft">Burst</dt>
        <dd>
          {one.can_charge ? (
            <>
              at most{' '}
              <strong>
                {formatNumber(one.most_a_burst, places)} {unit}
              </strong>
            </>
          ) : (
            'nothing can be charged through it'
          )}
        </dd>
        {one.in_its_hose > 0 && (
          <>
            <dt className="text-soft">Hose</dt>
            <dd>
              <strong>
                {formatNumber(one.in_its_hose, places)} {unit}
              </strong>{' '}
              of liquid stays in it: bleed it into suction
            </dd>
          </>
        )}
        {one.purge !== '' && (
          <>
            <dt className="text-soft">Purge</dt>
            <dd>{one.purge}</dd>
          </>
        )}
      </dl>
      <ol className="list-decimal space-y-1 py-2 pl-6">
        {one.steps.map((step) => (
          <li key={step.text}>
            {step.text}
            {step.caution !== '' && <Care word="Care:">{step.caution}</Care>}
          </li>
        ))}
      </ol>
    </div>
  )
}

const LINE = {
  fill: 'none',
  stroke: 'var(--ink)',
  strokeWidth: 2.5,
  strokeLinejoin: 'round',
} as const
const HOSE = { fill: 'none', stroke: 'var(--low)', strokeWidth: 5, strokeLinecap: 'round' } as const

/** The service port on its pipe, and what is screwed onto it. */
function Port({ of }: { of: string }) {
  return (
    <svg viewBox="0 0 150 74" aria-hidden className="w-full">
      <path d="M0 66H60" stroke="var(--ink)" strokeWidth="9" />
      <path d="M30 62V46h10v16" {...LINE} />
      <path d="M28 46h14v-7H28z" fill="var(--ink)" />
      {DRAWN[of]}
    </svg>
  )
}

const DRAWN: Record<string, ReactNode> = {
  nothing: <path d="M29 39q6-9 12 0" {...LINE} strokeWidth="4" />,
  probes: (
    <>
      <path d="M35 39V28" {...LINE} />
      <rect x="26" y="8" width="18" height="20" rx="5" {...LINE} />
      <path d="M52 10q6 8 0 16M60 6q9 12 0 24" {...LINE} strokeWidth="2" />
    </>
  ),
  hose_manifold: (
    <>
      <path d="M35 38Q36 12 82 22" {...HOSE} />
      <rect x="82" y="12" width="52" height="20" rx="3" {...LINE} />
      <circle cx="95" cy="22" r="6" {...LINE} />
      <circle cx="121" cy="22" r="6" {...LINE} />
      <path d="M108 32V66" {...HOSE} />
    </>
  ),
  probe_and_tee: (
    <>
      <path d="M35 39V22M35 30H60" {...LINE} strokeWidth="5" />
      <rect x="26" y="4" width="18" height="18" rx="5" {...LINE} />
      <path d="M62 30Q104 30 108 66" {...HOSE} />
    </>
  ),
  core_tool: (
    <>
      <rect x="25" y="22" width="20" height="17" {...LINE} />
      <path d="M35 22V4M29 4h12" {...LINE} strokeWidth="4" />
      <path d="M45 30h10M55 24v12" {...LINE} strokeWidth="4" />
      <path d="M58 30Q106 30 110 66" {...HOSE} strokeWidth="8" />
    </>
  ),
}
