import { useState } from 'react'
import { api, send } from '../../api/client'
import { queryClient, useImports } from '../../api/queries'
import type { FileLook, FileMapping, Import, Visit, Vocabulary } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { newId } from '../../lib/ids'
import { ownZone } from '../../lib/zone'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { FirstRows } from './FirstRows'
import { TimeFields } from './TimeFields'

type Props = { visit: Visit; vocabulary: Vocabulary; onClose: () => void }

const UNITS: Record<string, string[]> = {
  psig: ['psig', 'kPa', 'bar'], kPa: ['psig', 'kPa', 'bar'], '°F': ['°F', '°C'],
  '°C': ['°F', '°C'], CFM: ['CFM', 'L/s'], 'L/s': ['CFM', 'L/s'], 'in. w.c.': ['in. w.c.', 'Pa'],
  Pa: ['in. w.c.', 'Pa'], lb: ['lb', 'oz', 'kg', 'g'], kg: ['lb', 'oz', 'kg', 'g'],
  micron: ['micron', 'Pa'],
} // prettier-ignore

/** Read a log file into the visit: look at it, say what its columns are, then let it run. */
export function ImportCard({ visit, vocabulary, onClose }: Props) {
  const [look, setLook] = useState<FileLook | null>(null)
  const { said: problem, busy, ask } = useAsking()
  const [started, setStarted] = useState<string | null>(null)
  const imports = useImports(visit.id, started !== null)
  const running =
    imports.status === 'ready' ? imports.data.find((one) => one.id === started) : undefined
  const choose = (file: File) => ask(async () => setLook(await upload(visit.id, file)))
  const start = (of: FileLook, mapping: FileMapping) =>
    ask(async () => {
      const path = { visit_id: visit.id, import_id: of.id }
      await api.POST('/api/visits/{visit_id}/imports/{import_id}/start', {
        params: { path },
        body: mapping,
      })
      setStarted(of.id)
    })
  return (
    <Panel open onClose={onClose} title="Read a log file">
      {problem !== '' && (
        <p role="alert" className="mb-3 border-l-4 border-alarm pl-3">
          {problem}
        </p>
      )}
      {started !== null ? (
        <Progress visit={visit} of={running} />
      ) : look ? (
        <Columns
          look={look}
          vocabulary={vocabulary}
          onStart={(mapping) => void start(look, mapping)}
        />
      ) : (
        <label className="block">
          A table of readings with a time in each line: CSV, or one JSON object a line. It is looked
          at first; nothing is kept until you say what its columns are.
          <input
            type="file"
            accept=".csv,.txt,.tsv,.ndjson,.jsonl,.json"
            disabled={busy !== ''}
            onChange={(event) => {
              const file = event.target.files?.[0]
              if (file) void choose(file)
            }}
            className="mt-3 block min-h-11 w-full rounded border border-dashed border-rule-strong p-3"
          />
          {busy !== '' && <span role="status">Looking at it…</span>}
        </label>
      )}
    </Panel>
  )
}

function upload(visitId: string, file: File): Promise<FileLook> {
  const name = encodeURIComponent(file.name.slice(0, 120))
  const path = `/visits/${visitId}/imports/${newId()}?name=${name}&zone_minutes=${ownZone()}`
  return send<FileLook>('PUT', path, file)
}

type ColumnsProps = {
  look: FileLook
  vocabulary: Vocabulary
  onStart: (mapping: FileMapping) => void
}

function Columns({ look, vocabulary, onStart }: ColumnsProps) {
  const [mapping, setMapping] = useState(look.mapping)
  const change = (name: string, part: Partial<FileMapping['columns'][number]>) =>
    setMapping({
      ...mapping,
      columns: mapping.columns.map((one) => (one.name === name ? { ...one, ...part } : one)),
    })
  const firstRow = look.rows[0] ?? []
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        onStart(mapping)
      }}
    >
      {look.remembered && (
        <p className="mb-2">A file with this heading was read before, like so:</p>
      )}
      {look.questions.length > 0 && (
        <ul className="mb-3 border-l-4 border-accent pl-3">
          {look.questions.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <TimeFields times={mapping} onChange={(part) => setMapping({ ...mapping, ...part })} />
      <FirstRows look={look} mapping={mapping} vocabulary={vocabulary} />
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-rule-strong">
            <th className="py-1 pr-2">Column</th>
            <th className="py-1 pr-2">First value</th>
            <th className="py-1 pr-2">Is</th>
            <th className="py-1">In</th>
          </tr>
        </thead>
        <tbody>
          {mapping.columns.map((column, i) => (
            <tr key={column.name} className="border-b border-rule">
              <td className="max-w-40 truncate py-1 pr-2" title={column.name}>
                {column.name}
              </td>
              <td className="py-1 pr-2 text-soft">{firstRow[i] ?? ''}</td>
              <td className="py-1 pr-2">
                {column.name === mapping.time ? (
                  'the time'
                ) : (
                  <select
                    aria-label={`${column.name} is`}
                    value={column.point}
                    onChange={(event) =>
                      change(column.name, {
                        point: event.target.value,
                        unit: usualUnit(vocabulary, event.target.value, column.unit ?? ''),
                      })
                    }
                    className="h-11 w-full max-w-48 rounded border border-rule-strong bg-ground px-1"
                  >
                    <option value="">left out</option>
                    {vocabulary.points.map((row) => (
                      <option key={row.key} value={row.key}>
                        {row.label}
                      </option>
                    ))}
                  </select>
                )}
              </td>
              <td className="py-1">
                {column.point !== '' && (
                  <select
                    aria-label={`Unit of ${column.name}`}
                    value={column.unit}
                    onChange={(event) => change(column.name, { unit: event.target.value })}
                    className="h-11 rounded border border-rule-strong bg-ground px-1"
                  >
                    {(UNITS[column.unit ?? ''] ?? [column.unit]).map((unit) => (
                      <option key={unit}>{unit}</option>
                    ))}
                  </select>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button weight="do" type="submit" className="mt-4">
        Read it
      </Button>
    </form>
  )
}

function usualUnit(vocabulary: Vocabulary, point: string, now: string): string {
  const row = vocabulary.points.find((one) => one.key === point)
  if (!row) return ''
  const fits = UNITS[row.unit]?.includes(now) ?? row.unit === now
  return fits ? now : row.unit
}

function Progress({ visit, of }: { visit: Visit; of: Import | undefined }) {
  if (!of) return <p role="status">Starting…</p>
  const cancel = async () => {
    const path = { visit_id: visit.id, import_id: of.id }
    await api.POST('/api/visits/{visit_id}/imports/{import_id}/cancel', { params: { path } })
    await queryClient.invalidateQueries({ queryKey: ['imports', visit.id] })
  }
  const words = {
    waiting: 'Waiting.',
    reading: `Reading: ${Math.round(of.share * 100)} %, ${of.readings.toLocaleString()} readings.`,
    done: `Done: ${of.readings.toLocaleString()} readings are in. See them on the strips.`,
    cancelled: 'Cancelled. None of it was kept.',
    failed: 'It could not be read.',
  }[of.state]
  return (
    <div className="flex flex-col gap-3">
      <p role="status" data-import={of.state}>
        <strong>{of.file_name}.</strong> {words} {of.state !== 'reading' && of.message}
      </p>
      <progress max={1} value={of.share} className="h-4 w-full accent-[var(--accent)]" />
      {of.state === 'reading' && (
        <Button className="self-start" onClick={() => void cancel()}>
          Cancel
        </Button>
      )}
    </div>
  )
}
