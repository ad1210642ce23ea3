import { useState } from 'react'
import type { Charts } from '../../api/types'
import { newId } from '../../lib/ids'
import { setDraft } from '../../state/drafts'
import { post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { ChartTable } from '../../ui/ChartTable'
import { Heading } from '../../ui/Heading'
import { ChartEditor } from './ChartEditor'

type Props = { systemId: string; charts: Charts }

/** Makers' charts kept with a system: typed, pasted or from a file; changed and taken away. */
export function ChartsSection({ systemId, charts }: Props) {
  const { units } = usePreferences()
  const [editing, setEditing] = useState<string | null>(null)
  const keep = (kind: string, text: string) => {
    const id = newId()
    post(
      '/api/systems/{system_id}/charts',
      { id, kind, text },
      { id, units, blanks: { system_id: systemId } },
    )
    setDraft(`chart:${systemId}:${kind}`, undefined)
    setEditing(null)
  }
  return (
    <section aria-label="Charts">
      <Heading aside={String(charts.charts.length)}>Maker’s charts</Heading>
      {charts.kinds.map((kind) => {
        const kept = charts.charts.find((chart) => chart.kind.key === kind.key)
        return (
          <div key={kind.key} data-chart={kind.key} className="border-b border-rule py-1">
            <div className="flex flex-wrap items-center justify-between gap-x-2">
              <h3 className="min-w-0 flex-1 text-[0.98rem]">{kind.label}</h3>
              <Button
                weight="quiet"
                tight
                aria-expanded={editing === kind.key}
                onClick={() => setEditing(editing === kind.key ? null : kind.key)}
              >
                {editing === kind.key ? 'Leave it' : kept ? 'Change' : 'Add'}
              </Button>
              {kept && editing !== kind.key && (
                <Button weight="quiet" tight onClick={() => keep(kind.key, '')}>
                  Take away
                </Button>
              )}
            </div>
            {editing === kind.key ? (
              <ChartEditor
                systemId={systemId}
                kind={kind}
                stored={kept && kept.written_in === units ? kept.text : ''}
                onKeep={(text) => keep(kind.key, text)}
              />
            ) : (
              kept && <ChartTable chart={kept} />
            )}
          </div>
        )
      })}
    </section>
  )
}
