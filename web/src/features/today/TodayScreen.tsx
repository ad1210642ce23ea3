import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { useToday } from '../../api/queries'
import type { Today, VisitLine } from '../../api/types'
import { dueInWords, formatNumber, inMinutes, minutesSince, shortTime } from '../../lib/format'
import { changeVisit } from '../../state/outbox'
import { useKeys } from '../../state/keys'
import { openFind } from '../../state/find'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LinkRow } from '../../ui/LinkRow'
import { LeftOut } from '../../ui/LeftOut'
import { LoadState } from '../../ui/LoadState'
import { StartVisit } from './StartVisit'
import { Waiting } from './Waiting'
import { serverDate } from '../../state/clock'

/** What today asks for: visits under way, then due, then the last ones closed. */
export function TodayScreen() {
  const today = useToday()
  const [starts, setStarts] = useState(false)
  useKeys([{ key: '*', label: 'Start a visit', run: () => setStarts(true) }])
  return (
    <div className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 md:px-6">
      <h1 className="sr-only">Today</h1>
      <button
        type="button"
        onClick={openFind}
        className="mb-5 flex h-12 w-full items-center rounded border-2 border-ink bg-sheet px-3 text-left text-soft sm:hidden"
      >
        Find a site, a system, a visit
      </button>
      <LoadState of={today}>
        {(data) => (
          <div className="grid grid-cols-1 gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1.45fr)_minmax(0,1fr)]">
            <div>
              <LeftOut of={data.broken} />
              {(starts || isEmpty(data)) && <StartVisit />}
              <section aria-label="Under way">
                <Heading aside={String(data.under_way.length)}>Under way</Heading>
                {!isEmpty(data) && (
                  <Button className="mt-2" keyHint="*" onClick={() => setStarts(!starts)}>
                    {starts ? 'Leave it' : 'Start a visit'}
                  </Button>
                )}
                {data.under_way.length === 0 && (
                  <p className="py-4 text-soft">
                    No visit is open. Start one here, or pick a system under{' '}
                    <Link className="underline underline-offset-4" to="/systems">
                      Systems
                    </Link>
                    .
                  </p>
                )}
                <ul>
                  {data.under_way.map((visit) => (
                    <UnderWay key={visit.id} visit={visit} />
                  ))}
                </ul>
              </section>
            </div>
            <div className="flex flex-col gap-8">
              <Waiting today={data} />
              <section aria-label="Due">
                <Heading aside={String(data.due.length)}>Due</Heading>
                {data.due.length === 0 && <p className="py-4 text-soft">Nothing is planned.</p>}
                <ul>
                  {data.due.map((visit) => (
                    <Due key={visit.id} visit={visit} />
                  ))}
                </ul>
              </section>
              <section aria-label="Lately closed">
                <Heading>Lately closed</Heading>
                {data.recent.length === 0 && <p className="py-4 text-soft">None yet.</p>}
                <ul>
                  {data.recent.map((visit) => (
                    <LinkRow
                      key={visit.id}
                      to={`/visits/${visit.id}`}
                      title={place(visit)}
                      aside={visit.closed_at && shortTime(visit.closed_at, serverDate())}
                      below={visit.headline ?? visit.complaint}
                      more={
                        data.followed.includes(visit.id) && (
                          <Link
                            to={`/systems/${visit.system.id}?over=${visit.id}`}
                            aria-label={`Compare with the visit before: ${place(visit)}`}
                            className="inline-flex min-h-11 items-center underline underline-offset-4"
                          >
                            Compare
                          </Link>
                        )
                      }
                    />
                  ))}
                </ul>
              </section>
            </div>
          </div>
        )}
      </LoadState>
    </div>
  )
}

/** Nothing was ever written here: the first thing offered is a visit. */
const isEmpty = (data: Today) =>
  data.under_way.length === 0 && data.due.length === 0 && data.recent.length === 0

const place = (visit: VisitLine) => `${visit.system.site_name}, ${visit.system.name}`

function UnderWay({ visit }: { visit: VisitLine }) {
  const { units } = usePreferences()
  const unit = units === 'ip' ? '°F' : 'K'
  const shown = (value: number | null) => (value === null ? '—' : formatNumber(value, 1))
  return (
    <li className="border-b border-rule">
      <Link to={`/visits/${visit.id}`} className="block py-4">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <strong className="text-[1.2rem]">{place(visit)}</strong>
          <span className="text-[0.92rem] text-soft">
            {visit.opened_at && `open ${inMinutes(minutesSince(visit.opened_at, serverDate()))}`}
          </span>
        </div>
        <p className="text-[0.95rem] text-soft">
          {visit.system.summary}
          {visit.complaint !== '' && <> · “{visit.complaint}”</>}
        </p>
        <div className="mt-2 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
          <p className="min-w-0 flex-1 basis-64 border-l-8 border-ink pl-3 text-[1.15rem] leading-snug font-bold">
            {visit.headline ?? 'Type what you read.'}
          </p>
          <dl className="flex gap-6">
            <Small label="Superheat" value={shown(visit.superheat)} unit={unit} side="low" />
            <Small label="Subcooling" value={shown(visit.subcooling)} unit={unit} side="high" />
          </dl>
        </div>
      </Link>
    </li>
  )
}

type SmallProps = { label: string; value: string; unit: string; side: 'low' | 'high' }

function Small({ label, value, unit, side }: SmallProps) {
  return (
    <div
      data-side={side}
      className="w-28 border-l-4 pl-2 data-[side=high]:border-dashed data-[side=high]:border-high data-[side=low]:border-low"
    >
      <dt className="text-[0.85rem] text-soft">{label}</dt>
      <dd className="text-[1.75rem] leading-none font-bold">
        {value}
        <span className="ml-1 text-[0.9rem] font-normal text-soft">{unit}</span>
      </dd>
    </div>
  )
}

function Due({ visit }: { visit: VisitLine }) {
  const navigate = useNavigate()
  const { units } = usePreferences()
  const late = visit.due_on !== null && dueInWords(visit.due_on, serverDate()).endsWith('late')
  const start = () => {
    changeVisit(visit.id, { started: true }, units)
    void navigate(`/visits/${visit.id}`)
  }
  return (
    <li className="flex items-center gap-3 border-b border-rule py-2">
      <div className="min-w-0 flex-1 leading-snug">
        <p className="truncate font-bold">{place(visit)}</p>
        <p className="text-[0.92rem] text-soft">
          <span className={late ? 'font-bold text-ink' : ''}>
            {visit.due_on && dueInWords(visit.due_on, serverDate())}
          </span>
          {visit.complaint !== '' && ` · ${visit.complaint}`}
        </p>
      </div>
      <Button onClick={start} aria-label={`Start the visit to ${place(visit)}`}>
        Start
      </Button>
    </li>
  )
}
