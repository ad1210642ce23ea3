import { useState } from 'react'
import { api, send } from '../../api/client'
import { queryClient, useImports } from '../../api/queries'
import type { FileLook, FileMapping, Import, Visit, Vocabulary } from '../../api/types'
import { newId } from '../../lib/ids'
import { ownZone } from '../../lib/zone'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { FirstRows } from './FirstRows'

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
  const [problem, setProblem] = useState('')
  const [sending, setSending] = useState(false)
  const [started, setStarted] = useState<string | null>(null)
  const imports = useImports(visit.id, started !== null)
  const running =
    imports.status === 'ready' ? imports.data.find((one) => one.id === started) : undefined
  const choose = async (file: File) => {
    setProblem('')
    setSending(true)
    try {
      setLook(await upload(visit.id, file))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
    setSending(false)
  }
  const start = async (mapping: FileMapping) => {
    if (!look) return
    setProblem('')
    try {
      const path = { visit_id: visit.id, import_id: look.id }
      await api.POST('/api/visits/{visit_id}/imports/{import_id}/start', {
        params: { path },
        body: mapping,
      })
      setStarted(look.id)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
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
        <Columns look={look} vocabulary={vocabulary} onStart={(mapping) => void start(mapping)} />
      ) : (
        <label className="block">
          A table of readings with a time in each line: CSV, or one JSON object a line. It is looked
          at first; nothing is kept until you say what its columns are.
          <input
            type="file"
            accept=".csv,.txt,.tsv,.ndjson,.jsonl,.json"
            disabled={sending}
            onChange={(event) => {
              const file = event.target.files?.[0]
              if (file) void choose(file)
            }}
            className="mt-3 block min-h-11 w-full rounded border border-dashed border-rule-strong p-3"
          />
          {sending && <span role="status">Looking at it…</span>}
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
      <div className="mb-3 grid grid-cols-2 gap-3">
        <label>
          Times are
          <select
            value={mapping.time_form}
            onChange={(event) =>
              setMapping({
                ...mapping,
                time_form: event.target.value as FileMapping['time_form'],
              })
            }
            className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
          >
            <option value="iso">2026-07-14 12:30:00</option>
            <option value="month_first">7/14/2026 (month first)</option>
            <option value="day_first">14/7/2026 (day first)</option>
            <option value="epoch_s">seconds since 1970</option>
            <option value="epoch_ms">milliseconds since 1970</option>
            <option value="elapsed">counted from its start</option>
          </select>
        </label>
        {mapping.time_form === 'elapsed' && (
          <label className="col-span-2">
            It started at
            <input
              type="datetime-local"
              step={1}
              value={localMoment(mapping.starts_ms ?? 0)}
              onChange={(event) => {
                const at = new Date(event.target.value).getTime()
                if (!Number.isNaN(at)) setMapping({ ...mapping, starts_ms: at })
              }}
              className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
            />
          </label>
        )}
        <label>
          Zone of times that name none
          <select
            value={mapping.zone_minutes}
            onChange={(event) =>
              setMapping({ ...mapping, zone_minutes: Number(event.target.value) })
            }
            className="mt-1 block h-11 w-full rounded border border-rule-strong bg-ground px-2"
          >
            {zones(mapping.zone_minutes).map((minutes) => (
              <option key={minutes} value={minutes}>
                {zoneName(minutes)}
              </option>
            ))}
          </select>
        </label>
      </div>
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

/** A moment as a local date and time, for its field. */
function localMoment(ms: number): string {
  const at = new Date(ms - new Date(ms).getTimezoneOffset() * 60_000)
  return at.toISOString().slice(0, 19)
}

function usualUnit(vocabulary: Vocabulary, point: string, now: string): string {
  const row = vocabulary.points.find((one) => one.key === point)
  if (!row) return ''
  const fits = UNITS[row.unit]?.includes(now) ?? row.unit === now
  return fits ? now : row.unit
}

function zones(own: number): number[] {
  const whole = Array.from({ length: 27 }, (_, i) => (i - 12) * 60)
  return [...new Set([own, ...whole])].sort((a, b) => a - b)
}

function zoneName(minutes: number): string {
  const hours = Math.floor(Math.abs(minutes) / 60)
  const rest = String(Math.abs(minutes) % 60).padStart(2, '0')
  return `UTC ${minutes < 0 ? '−' : '+'}${hours}:${rest}`
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
