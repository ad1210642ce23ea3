import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useCharts, useMethods, useRefrigerants, useSystem, useVocabulary } from '../../api/queries'
import type {
  Charts,
  Loadable,
  Refrigerant,
  System,
  SystemPage,
  Units,
  Vocabulary,
} from '../../api/types'
import { dueInWords, shortTime } from '../../lib/format'
import { useKeys } from '../../state/keys'
import { post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { Heading } from '../../ui/Heading'
import { LinkRow } from '../../ui/LinkRow'
import { LoadState } from '../../ui/LoadState'
import { ChartsSection } from './ChartsSection'
import { Compare } from './Compare'
import { PlateChoices, PlateForm, RoomFields, WinterFields } from './PlateForm'
import { Keeping, Standing } from './Records'
import { WeighInSheet } from './WeighInSheet'
import { newId } from '../../lib/ids'
import { serverDate } from '../../state/clock'

/** One system: its plate, edited in place, and every visit to it. */
export function SystemScreen() {
  const { systemId = '' } = useParams()
  const page = useSystem(systemId)
  const vocabulary = useVocabulary()
  const refrigerants = useRefrigerants()
  return (
    <div className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 md:px-6">
      <LoadState of={page}>
        {(ready) => (
          <LoadState of={vocabulary}>
            {(words) => (
              <LoadState of={refrigerants}>
                {(fluids) => (
                  <Page key={ready.system.id} page={ready} vocabulary={words} fluids={fluids} />
                )}
              </LoadState>
            )}
          </LoadState>
        )}
      </LoadState>
    </div>
  )
}

const isHeatPump = (system: System) =>
  system.application === 'heat_pump_heating' || system.reversing_valve === 'present'

type Props = { page: SystemPage; vocabulary: Vocabulary; fluids: Refrigerant[] }

function Page({ page, vocabulary, fluids }: Props) {
  const { system, visits } = page
  const charts = useCharts(system.id)
  const methods = useMethods()
  const { units } = usePreferences()
  const navigate = useNavigate()
  const open = visits.find((visit) => visit.state === 'under_way')
  const start = () => {
    const id = open?.id ?? newId()
    if (!open) {
      const body = { id, system_id: system.id }
      post('/api/visits', body, { id, units, visitId: id })
    }
    void navigate(`/visits/${id}`)
  }
  useKeys([{ key: '*', label: 'Start a visit', run: start }])
  const fluid = fluids.find((one) => one.name === system.refrigerant)
  return (
    <>
      <header className="flex flex-wrap items-center justify-between gap-3 pb-4">
        <div className="min-w-0">
          <p className="text-soft">{system.site_name}</p>
          <h1 className="text-[1.6rem]">{system.name}</h1>
          <p>{system.summary}</p>
        </div>
        <Button weight="do" keyHint="*" onClick={start}>
          {open ? 'Continue the visit' : 'Start a visit'}
        </Button>
      </header>
      <div className="grid grid-cols-1 gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
        <div className="flex min-w-0 flex-col gap-8">
          <Standing system={system} units={units} />
          <Compare systemId={system.id} visits={visits} />
          <section aria-label="Plate">
            <Heading aside="kept as you type">Plate</Heading>
            <PlateForm
              system={system}
              vocabulary={vocabulary}
              fluids={fluids}
              isVisited={visits.some((one) => one.state === 'under_way')}
              methods={methods.status === 'ready' ? methods.data : []}
              columns={{
                indoor_unit: columnsOf(charts, 'subcooling_by_outdoor'),
                blower_tap: columnsOf(charts, 'blower_airflow'),
              }}
            />
          </section>
          {isHeatPump(system) && (
            <section aria-label="In winter">
              <Heading aside="of a heat pump">In winter</Heading>
              <WinterFields system={system} vocabulary={vocabulary} />
            </section>
          )}
          {system.application === 'refrigeration' && (
            <section aria-label="The room">
              <Heading aside="of a cold room">The room</Heading>
              <RoomFields system={system} vocabulary={vocabulary} sisters={page.sister_boxes} />
            </section>
          )}
          {system.application === 'vehicle' && (
            <section aria-label="The vehicle">
              <Heading aside="how it is tested">The vehicle</Heading>
              <div className="grid gap-x-6 gap-y-3 pt-3 sm:grid-cols-2">
                <PlateChoices system={system} vocabulary={vocabulary} about="vehicle" />
              </div>
            </section>
          )}
          <WeighInSheet system={system} vocabulary={vocabulary} />
        </div>
        <div className="flex min-w-0 flex-col gap-8">
          <section aria-label="Visits">
            <Heading aside={String(visits.length)}>Visits</Heading>
            <PlanVisit systemId={system.id} />
            {visits.length === 0 && <p className="py-3 text-soft">No visit yet.</p>}
            <ul>
              {visits.map((visit) => (
                <LinkRow
                  key={visit.id}
                  to={`/visits/${visit.id}`}
                  title={visit.headline ?? 'Nothing read'}
                  aside={
                    visit.state === 'due' && visit.due_on
                      ? `due ${dueInWords(visit.due_on, serverDate())}`
                      : visit.opened_at && shortTime(visit.opened_at, serverDate())
                  }
                  below={visit.complaint}
                />
              ))}
            </ul>
          </section>
          <Keeping system={system} units={units} />
          {fluid && (
            <section aria-label="Refrigerant">
              <Heading aside={`safety class ${fluid.safety_class}`}>{fluid.name}</Heading>
              <FluidFacts fluid={fluid} units={units} />
            </section>
          )}
          <LoadState of={charts}>
            {(ready) => <ChartsSection systemId={system.id} charts={ready} />}
          </LoadState>
        </div>
      </div>
    </>
  )
}

/** A visit for another day: a date and what it is for. It is due on Today from then on. */
function PlanVisit({ systemId }: { systemId: string }) {
  const { units } = usePreferences()
  const [day, setDay] = useState('')
  const [reason, setReason] = useState('')
  const field = 'h-11 min-w-0 rounded border border-rule-strong bg-sheet px-2 placeholder:text-soft'
  return (
    <form
      className="flex flex-wrap gap-2 border-b border-rule py-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (day === '') return
        const id = newId()
        const body = { id, system_id: systemId, due_on: day, complaint: reason }
        post('/api/visits', body, { id, units, visitId: id })
        setDay('')
        setReason('')
      }}
    >
      <input
        type="date"
        aria-label="Day of the planned visit"
        value={day}
        onChange={(event) => setDay(event.target.value)}
        className={field}
      />
      <input
        aria-label="What the planned visit is for"
        placeholder="What for"
        maxLength={2000}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        className={`${field} flex-1 basis-32`}
      />
      <Button type="submit" disabled={day === ''}>
        Plan a visit
      </Button>
    </form>
  )
}

/** The named columns of a kept chart of a kind. */
function columnsOf(charts: Loadable<Charts>, kind: string): string[] {
  if (charts.status !== 'ready') return []
  const kept = charts.data.charts.find((chart) => chart.kind.key === kind)
  return (kept?.columns ?? []).filter((column) => typeof column === 'string')
}

function FluidFacts({ fluid, units }: { fluid: Refrigerant; units: Units }) {
  const parts = Object.entries(fluid.components)
    .map(([name, share]) => `${name} ${Number((share * 100).toFixed(1))} %`)
    .join(', ')
  const facts = [
    ['Made of', fluid.is_blend ? parts : 'one fluid'],
    ['Glide', `${fluid.glide.toFixed(1)} ${units === 'ip' ? '°F' : 'K'}`],
    [
      'Leaves the cylinder as',
      fluid.leaves_cylinder_as === 'liquid'
        ? 'liquid only: as vapour its make-up changes'
        : 'liquid or vapour',
    ],
    ['Oil', fluid.lubricants.join(', ')],
    ['Warming potential', `${fluid.gwp_ar4} (AR4), ${fluid.gwp_ar5} (AR5)`],
  ]
  return (
    <>
      {fluid.safety_class !== 'A1' && (
        <Care word="Care: flammable.">
          Ventilate, no ignition source, rated tools, and the maker’s limits on charge and room.
        </Care>
      )}
      <dl className="py-1">
        {facts.map(([name, value]) => (
          <div key={name} className="grid grid-cols-[9.5rem_1fr] gap-2 border-b border-rule py-1.5">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </>
  )
}
