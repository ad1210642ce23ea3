import { useState } from 'react'
import { useTests } from '../../../api/queries'
import type { Standing, TestKind, Units } from '../../../api/types'
import { Panel } from '../../../ui/Panel'
import { BeginTest } from './BeginTest'
import { TestCard } from './TestCard'

type Props = {
  visit: Standing
  units: Units
  /** The kind that is opened at once; "" for the list. */
  first: string
  onClose: () => void
}

const WHERE: [TestKind['where'], string][] = [
  ['circuit', 'Tight and dry'],
  ['running', 'The valve, running'],
  ['air', 'Air'],
  ['instrument', 'Instruments'],
]

/** Checks that wait on a clock and a curve: those under way, those to begin, those that are over. */
export function TestsPanel({ visit, units, first, onClose }: Props) {
  const tests = useTests(visit.id, visit.tests_running > 0)
  const [chosen, setChosen] = useState(first)
  if (tests.status !== 'ready') {
    return (
      <Panel open onClose={onClose} title="Tests with time">
        <p>{tests.status === 'error' ? tests.message : 'Reading the tests…'}</p>
      </Panel>
    )
  }
  const { kinds, tests: all } = tests.data
  const running = all.filter((one) => one.ended_at === null)
  const over = all.filter((one) => one.ended_at !== null)
  const isOpen = visit.state !== 'closed'
  const kind = kinds.find((one) => one.key === chosen)
  const runs = running.some((one) => one.key === chosen)
  if (kind && isOpen && !runs) {
    return (
      <Panel open onClose={() => setChosen('')} title={kind.label}>
        <BeginTest visit={visit} units={units} kind={kind} onBegun={() => setChosen(kind.key)} />
      </Panel>
    )
  }
  return (
    <Panel open onClose={onClose} title="Tests with time">
      {running.map((one) => (
        <TestCard
          key={one.id}
          {...{ visit, units, test: one }}
          kind={kinds.find((row) => row.key === one.key)}
          onBegin={setChosen}
        />
      ))}
      {isOpen &&
        WHERE.map(([where, label]) => (
          <section key={where} className="mt-3">
            <h3 className="font-bold">{label}</h3>
            <ul>
              {kinds
                .filter((row) => row.where === where && !running.some((one) => one.key === row.key))
                .map((row) => (
                  <li key={row.key} className="border-b border-rule">
                    <button
                      type="button"
                      data-test-kind={row.key}
                      onClick={() => setChosen(row.key)}
                      className="flex min-h-12 w-full items-center justify-between gap-3 py-1 text-left leading-tight"
                    >
                      <span>
                        {row.label}
                        <span className="block text-[0.9rem] text-soft">{row.why}</span>
                      </span>
                      <span aria-hidden>›</span>
                    </button>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      {over.length > 0 && (
        <section className="mt-4">
          <h3 className="font-bold">Over</h3>
          {over.map((one) => (
            <TestCard
              key={one.id}
              {...{ visit, units, test: one }}
              kind={kinds.find((row) => row.key === one.key)}
              onBegin={setChosen}
            />
          ))}
        </section>
      )}
    </Panel>
  )
}
