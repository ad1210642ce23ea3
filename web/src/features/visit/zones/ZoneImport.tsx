import { useState } from 'react'
import { api, got, send } from '../../../api/client'
import { queryClient, visitKey } from '../../../api/queries'
import type { Units, Visit, ZoneLook } from '../../../api/types'
import { useAsking } from '../../../lib/asking'
import { newId } from '../../../lib/ids'
import { ownZone } from '../../../lib/zone'
import { Button } from '../../../ui/Button'
import { Panel } from '../../../ui/Panel'
import { TableStart } from '../FirstRows'
import { TimeFields } from '../TimeFields'
import { CodesMeant } from './CodesMeant'
import { Reading } from './Reading'
import { PipesDrawn } from '../../../parts/plant/PipesDrawn'
import { RoomsDrawn } from '../../../parts/plant/RoomsDrawn'

type Props = { visit: Visit; units: Units; onClose: () => void }

/** Read a plant’s log: choose it, see what its columns are taken for, confirm its rooms, read. */
export function ZoneImport({ visit, units, onClose }: Props) {
  const [look, setLook] = useState<ZoneLook | null>(null)
  const { said: problem, busy, ask } = useAsking()
  const read = (of: ZoneLook) =>
    ask(async () => {
      await got(
        api.POST('/api/visits/{visit_id}/zones/logs/{log_id}/read', {
          params: { path: { visit_id: visit.id, log_id: of.id }, query: { units } },
          body: { mapping: of.mapping, parts: of.parts },
        }),
      )
      await queryClient.invalidateQueries({ queryKey: visitKey(visit.id, units) })
      await queryClient.invalidateQueries({ queryKey: ['zones', visit.id] })
      onClose()
    }, 'Reading it…')
  return (
    <Panel open onClose={onClose} title="Read the plant’s log">
      {problem !== '' && (
        <p role="alert" className="mb-3 border-l-4 border-alarm pl-3">
          {problem}
        </p>
      )}
      {look ? (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            void read(look)
          }}
          className="flex flex-col gap-4"
        >
          <Asked look={look} />
          <TimeFields
            times={look.mapping}
            onChange={(part) => setLook({ ...look, mapping: { ...look.mapping, ...part } })}
          />
          <TableStart
            heading={look.heading}
            rows={look.rows}
            titles={look.titles}
            taken={(name) => takenFor(look, name)}
          />
          <CodesMeant look={look} onChange={setLook} />
          <ColumnList look={look} onChange={setLook} />
          <RoomsDrawn parts={look.parts} onChange={(parts) => setLook({ ...look, parts })} />
          <PipesDrawn parts={look.parts} onChange={(parts) => setLook({ ...look, parts })} />
          <Button weight="do" type="submit" disabled={busy !== ''} className="self-start">
            Read it
          </Button>
        </form>
      ) : (
        <label className="block">
          A table with a time in each line; each room’s columns carry its number in their heading.
          Nothing is kept until you have said what its columns are.
          <input
            type="file"
            accept=".csv,.txt,.tsv"
            disabled={busy !== ''}
            onChange={(event) => {
              const file = event.target.files?.[0]
              if (file)
                void ask(async () => setLook(await upload(visit.id, file)), 'Looking at it…')
            }}
            className="mt-3 block min-h-11 w-full rounded border border-dashed border-rule-strong p-3"
          />
        </label>
      )}
      {busy !== '' && !look && <p role="status">{busy}</p>}
      {busy !== '' && look && <Reading visitId={visit.id} logId={look.id} />}
    </Panel>
  )
}

function upload(visitId: string, file: File): Promise<ZoneLook> {
  const path = `/visits/${visitId}/zones/logs/${newId()}?zone_minutes=${ownZone()}`
  return send<ZoneLook>('PUT', path, file)
}

function Asked({ look }: { look: ZoneLook }) {
  const missing = look.missing.slice(0, 6)
  return (
    <div className="flex flex-col gap-2">
      {look.remembered && <p>A log with this heading was read before, like so.</p>}
      {look.questions.length > 0 && (
        <ul className="border-l-4 border-accent pl-3">
          {look.questions.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      {missing.length > 0 && (
        <p className="text-soft">
          No column is: {missing.join('; ')}
          {look.missing.length > missing.length &&
            ` and ${look.missing.length - missing.length} more`}
          . What hangs on them is not read.
        </p>
      )}
    </div>
  )
}

function takenFor(look: ZoneLook, name: string): string {
  if (name === look.mapping.time) return 'the time'
  const column = look.mapping.columns.find((one) => one.name === name)
  if (!column?.point) return ''
  const label = look.points.find((one) => one.key === column.point)?.label ?? column.point
  const whose = column.part === 'outdoor' ? 'plant' : column.part
  return `${whose}: ${label.toLowerCase()}${column.unit ? `, ${column.unit}` : ''}`
}

type ListProps = { look: ZoneLook; onChange: (look: ZoneLook) => void }

/** Every column with what it is taken for, to be put right. */
function ColumnList({ look, onChange }: ListProps) {
  const change = (name: string, part: Partial<ZoneLook['mapping']['columns'][number]>) =>
    onChange({
      ...look,
      mapping: {
        ...look.mapping,
        columns: look.mapping.columns.map((one) => (one.name === name ? { ...one, ...part } : one)),
      },
    })
  const rooms = [...new Set(['outdoor', ...look.parts.rooms.map((room) => room.key)])]
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 font-bold">
        {look.mapping.columns.filter((one) => one.point).length} of {look.heading.length} columns
        are known: put one right
      </summary>
      <table className="w-full text-left">
        <tbody>
          {look.mapping.columns
            .filter((one) => one.name !== look.mapping.time && one.name !== '')
            .map((column) => (
              <tr key={column.name} className="border-b border-rule">
                <td className="max-w-44 truncate py-1 pr-2" title={column.name}>
                  {column.name}
                </td>
                <td className="py-1 pr-2">
                  <select
                    aria-label={`${column.name} belongs to`}
                    value={column.part}
                    onChange={(event) => change(column.name, { part: event.target.value })}
                    className="h-11 rounded border border-rule-strong bg-ground px-1"
                  >
                    <option value="">–</option>
                    {rooms.map((key) => (
                      <option key={key} value={key}>
                        {key === 'outdoor' ? 'plant' : key}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="py-1">
                  <select
                    aria-label={`${column.name} is`}
                    value={column.point}
                    onChange={(event) => change(column.name, { point: event.target.value })}
                    className="h-11 w-full rounded border border-rule-strong bg-ground px-1"
                  >
                    <option value="">left out</option>
                    {look.points
                      .filter((one) => (one.of === 'outdoor') === (column.part === 'outdoor'))
                      .map((one) => (
                        <option key={one.key} value={one.key}>
                          {one.label}
                        </option>
                      ))}
                  </select>
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </details>
  )
}
