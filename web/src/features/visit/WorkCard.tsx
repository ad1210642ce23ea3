import { useState } from 'react'
import { api, got } from '../../api/client'
import { queryClient, useYard } from '../../api/queries'
import type { Job, Units, Visit, Yard } from '../../api/types'
import { newId } from '../../lib/ids'
import { Button } from '../../ui/Button'
import { Card } from '../../ui/Card'
import { LoadState } from '../../ui/LoadState'

type Props = { visit: Visit; units: Units; onClose: () => void }

/** The simulated system, worked on as a real one would be: each job with its caution beside it. */
export function WorkCard({ visit, units, onClose }: Props) {
  const yard = useYard(visit.id, true)
  const [said, setSaid] = useState('')
  const [amount, setAmount] = useState('')
  const [busy, setBusy] = useState(false)
  const work = async (job: Job) => {
    setBusy(true)
    const body = {
      id: newId(),
      job: job.key,
      amount: job.takes_amount ? Number(amount.replace(',', '.')) : null,
    }
    try {
      const params = { path: { visit_id: visit.id }, query: { units } }
      const done = await got(api.POST('/api/visits/{visit_id}/yard/jobs', { params, body }))
      setSaid(done.message)
      await queryClient.invalidateQueries({ queryKey: ['yard', visit.id] })
      await queryClient.invalidateQueries({ queryKey: ['visit', visit.id] })
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error))
    }
    setBusy(false)
  }
  return (
    <Card open onClose={onClose} title="Work on the simulated system">
      <LoadState of={yard}>
        {(system) => (
          <>
            <State of={system} />
            {said !== '' && (
              <p role="status" className="my-3 border-l-4 border-accent pl-3 font-bold">
                {said}
              </p>
            )}
            <ul>
              {system.jobs.map((job) => (
                <li
                  key={job.key}
                  className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-2"
                >
                  <Button
                    disabled={busy || (job.takes_amount && !(Number(amount.replace(',', '.')) > 0))}
                    onClick={() => void work(job)}
                  >
                    {job.label}
                  </Button>
                  {job.key === 'add_charge' && (
                    <label className="flex items-center gap-2">
                      <input
                        aria-label={`Amount in ${units === 'ip' ? 'ounces' : 'grams'}`}
                        inputMode="decimal"
                        value={amount}
                        onChange={(event) => setAmount(event.target.value)}
                        className="h-11 w-20 rounded border border-rule-strong bg-ground px-2 text-right"
                      />
                      {units === 'ip' ? 'oz' : 'g'}
                    </label>
                  )}
                  {job.caution !== '' && (
                    <span className="basis-full text-[0.9rem]">
                      <strong>Care:</strong> {job.caution}
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </>
        )}
      </LoadState>
    </Card>
  )
}

function State({ of }: { of: Yard }) {
  return (
    <p>
      {of.is_running ? 'It runs.' : 'It stands.'} {of.tripped}{' '}
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
