import { useWays } from '../../api/queries'
import type { Guide, Units, Visit } from '../../api/types'
import { writeOn } from '../../state/outbox'
import { Panel } from '../../ui/Panel'
import { Care } from '../../ui/Care'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { Ports } from './dose/Ports'

type Props = { visit: Visit; units: Units; onClose: () => void }

/** How the charge is brought right here today, how to connect for it, and the other schools. */
export function WaysCard({ visit, units, onClose }: Props) {
  const ways = useWays(visit.id)
  const isOpen = visit.state !== 'closed'
  return (
    <Panel open onClose={onClose} title="Ways in">
      <LoadState of={ways}>
        {(found) => (
          <>
            {found.ways.map((way, number) => (
              <Way key={way.key} way={way} opens={number === 0} />
            ))}
            <div className="mt-5">
              <Heading>How it is connected</Heading>
              <Ports
                {...{ units }}
                connections={found.connections}
                chosen={found.connection}
                onChoose={
                  isOpen
                    ? (connection) => writeOn(visit.id, 'connections', { connection }, units)
                    : undefined
                }
              />
            </div>
            <div className="mt-5">
              <Heading>Other schools</Heading>
              {found.other_schools.map((school) => (
                <details key={school.label} className="border-b border-rule">
                  <summary className="flex min-h-11 cursor-pointer items-center">
                    {school.label}
                  </summary>
                  <p className="pb-2 leading-snug">
                    {school.how} {school.reason}
                  </p>
                </details>
              ))}
            </div>
            <p className="mt-4 text-[0.94rem] text-soft">
              The plate, the maker’s instructions and local code come before all of this. Only
              licensed persons handle refrigerant.
            </p>
          </>
        )}
      </LoadState>
    </Panel>
  )
}

const STANDS = { right: '✓ right', low: '↓ too low', high: '↑ too high', '': '' }

function Way({ way, opens }: { way: Guide; opens: boolean }) {
  return (
    <details open={opens} data-way={way.key} className="border-b border-rule">
      <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-3">
        <span className={way.is_the_one ? 'font-bold' : ''}>{way.label}</span>
        <span className="text-[0.94rem] text-soft">{way.why}</span>
      </summary>
      <p className="text-[0.94rem] text-soft">{way.reason}</p>
      {way.figures.length > 0 && (
        <dl className="mt-1">
          {way.figures.map((figure) => (
            <div key={figure.label} className="flex flex-wrap items-baseline gap-x-3">
              <dt className="w-36 text-soft">{figure.label}</dt>
              <dd className="font-bold tabular-nums">{figure.text}</dd>
              {figure.stands !== '' && <dd>{STANDS[figure.stands]}</dd>}
            </div>
          ))}
        </dl>
      )}
      <ol className="list-decimal space-y-1 py-2 pl-6">
        {way.steps.map((step) => (
          <li key={step.text}>
            {step.text}
            {step.caution !== '' && <Care word="Care:">{step.caution}</Care>}
          </li>
        ))}
      </ol>
    </details>
  )
}
