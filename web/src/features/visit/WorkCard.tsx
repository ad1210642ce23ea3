import { useState } from 'react'
import { api, got } from '../../api/client'
import { queryClient, useYard } from '../../api/queries'
import type { Job, Units, Visit, Vocabulary, Yard } from '../../api/types'
import { Machine } from '../../drawing/Machine'
import { useAsking } from '../../lib/asking'
import { newId } from '../../lib/ids'
import { Button } from '../../ui/Button'
import { Care } from '../../ui/Care'
import { Panel } from '../../ui/Panel'
import { LoadState } from '../../ui/LoadState'

type Props = { visit: Visit; vocabulary: Vocabulary; units: Units; onClose: () => void }

/** The simulated system, worked on as a real one would be: each job with its caution beside it. */
export function WorkCard({ visit, vocabulary, units, onClose }: Props) {
  const [part, setPart] = useState('')
  const yard = useYard(visit.id, true)
  const { said, say, busy, ask } = useAsking()
  const [amount, setAmount] = useState('')
  const work = (job: Job) =>
    ask(async () => {
      const body = {
        id: newId(),
        job: job.key,
        amount: job.takes_amount ? Number(amount.replace(',', '.')) : null,
      }
      const params = { path: { visit_id: visit.id }, query: { units } }
      const done = await got(api.POST('/api/visits/{visit_id}/yard/jobs', { params, body }))
      say(done.message)
      await queryClient.invalidateQueries({ queryKey: ['yard', visit.id] })
      await queryClient.invalidateQueries({ queryKey: ['visit', visit.id] })
    })
  const pad = {
    isBusy: busy !== '',
    amount,
    units,
    onAmount: setAmount,
    onJob: (job: Job) => void work(job),
  }
  return (
    <Panel open onClose={onClose} title="Work on the simulated system">
      <LoadState of={yard}>
        {(system) => (
          <>
            <State of={system} />
            {said !== '' && (
              <p role="status" className="my-3 border-l-4 border-ink pl-3 font-bold">
                {said}
              </p>
            )}
            <Machine
              label="Work, by the parts of the machine"
              parts={vocabulary.parts}
              states={Object.fromEntries(system.jobs.map((job) => [job.part, 'unseen'] as const))}
              chosen={part}
              onChoose={setPart}
            />
            {part === '' ? (
              <details className="mt-1">
                <summary className="flex min-h-11 cursor-pointer items-center">
                  Touch a part to work on it, or choose from a list
                </summary>
                <Jobs {...pad} jobs={system.jobs} />
              </details>
            ) : (
              <Jobs {...pad} jobs={system.jobs.filter((job) => job.part === part)} />
            )}
          </>
        )}
      </LoadState>
    </Panel>
  )
}

type JobsProps = {
  jobs: Job[]
  isBusy: boolean
  amount: string
  units: Units
  onAmount: (amount: string) => void
  onJob: (job: Job) => void
}

/** The jobs of a part; a caution they share stands over them once. */
function Jobs({ jobs, isBusy, amount, units, onAmount, onJob }: JobsProps) {
  const cautions = [...new Set(jobs.map((job) => job.caution).filter((caution) => caution !== ''))]
  const isAmount = Number(amount.replace(',', '.')) > 0
  return (
    <>
      {cautions.map((caution) => (
        <Care key={caution} word="Care:">
          {caution}
        </Care>
      ))}
      <div role="group" aria-label="Jobs" className="mt-2 flex flex-wrap items-center gap-2">
        {jobs.map((job) => (
          <Button
            key={job.key}
            className="px-3"
            disabled={isBusy || (job.takes_amount && !isAmount)}
            onClick={() => onJob(job)}
          >
            {job.label}
          </Button>
        ))}
        {jobs.some((job) => job.takes_amount) && (
          <label className="flex items-center gap-2">
            <input
              aria-label={`Amount in ${units === 'ip' ? 'ounces' : 'grams'}`}
              inputMode="decimal"
              value={amount}
              onChange={(event) => onAmount(event.target.value)}
              className="h-11 w-20 rounded border border-rule-strong bg-ground px-2 text-right"
            />
            {units === 'ip' ? 'oz' : 'g'}
          </label>
        )}
      </div>
    </>
  )
}

function State({ of }: { of: Yard }) {
  return (
    <p>
      {of.is_running ? 'It runs.' : 'It stands.'} {of.tripped} {of.thermostat}{' '}
      {of.adding > 0 && `Letting in: ${of.adding.toFixed(1)} still to go.`} Cylinder on the scale:{' '}
      {of.cylinder.toFixed(2)} {of.unit}.{' '}
      {of.liquid_return && (
        <strong>
          Liquid has reached the compressor on this visit. Shorter bursts, and look at superheat.
        </strong>
      )}
    </p>
  )
}
