import { useEffect, useId, useState } from 'react'
import { Refused, api, got } from '../../api/client'
import type { ChartDrawn, ChartKind } from '../../api/types'
import { useDraft } from '../../state/drafts'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { ChartTable } from '../../ui/ChartTable'

type Props = {
  systemId: string
  kind: ChartKind
  stored: string
  onKeep: (text: string) => void
}

type Read =
  | { status: 'empty' }
  | { status: 'reading' }
  | { status: 'refused'; message: string }
  | { status: 'ready'; chart: ChartDrawn }

const LARGEST_FILE = 200_000
const PAUSE_MS = 150

/** Paste, type or pick a file; what it reads as is drawn beside it before it is kept. */
export function ChartEditor({ systemId, kind, stored, onKeep }: Props) {
  const [draft, setDraft] = useDraft(`chart:${systemId}:${kind.key}`)
  const [fileProblem, setFileProblem] = useState<string | null>(null)
  const text = draft ?? stored
  const read = useReadChart(kind.key, text)
  const id = useId()
  const take = async (file: File | undefined) => {
    if (file === undefined) return
    if (file.size > LARGEST_FILE) {
      const size = (file.size / 1_000_000).toFixed(1)
      setFileProblem(
        `${file.name} has ${size} MB; a charging chart is a page. Pick the chart alone.`,
      )
      return
    }
    setFileProblem(null)
    setDraft(await file.text())
  }
  return (
    <div className="flex flex-col gap-2 py-2">
      <label htmlFor={id} className="text-[0.92rem] leading-snug">
        Paste or type the chart: headings first, then one row a line. Cells parted by tabs,
        semicolons or commas. In {kind.row.unit}
        {kind.cell.unit !== kind.row.unit && ` and ${kind.cell.unit}`}.
      </label>
      <textarea
        id={id}
        rows={7}
        spellCheck={false}
        value={text}
        placeholder={kind.example}
        aria-invalid={read.status === 'refused'}
        onChange={(event) => setDraft(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') event.currentTarget.blur()
        }}
        className="w-full rounded border border-rule-strong bg-sheet p-2 font-mono text-[0.95rem] placeholder:text-soft aria-invalid:border-2 aria-invalid:border-alarm"
      />
      <div className="flex flex-wrap items-center gap-2">
        <Button weight="do" disabled={read.status !== 'ready'} onClick={() => onKeep(text)}>
          Keep the chart
        </Button>
        <label className="inline-flex min-h-11 cursor-pointer items-center rounded border border-rule-strong bg-sheet px-3 focus-within:outline-3 focus-within:outline-accent">
          From a file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            className="sr-only"
            onChange={(event) => {
              void take(event.target.files?.[0])
              event.target.value = ''
            }}
          />
        </label>
      </div>
      {fileProblem !== null && <Problem>{fileProblem}</Problem>}
      {read.status === 'refused' && <Problem>{read.message}</Problem>}
      {read.status === 'ready' && <ChartTable chart={read.chart} />}
    </div>
  )
}

function Problem({ children }: { children: string }) {
  return (
    <p role="alert" className="border-l-4 border-alarm pl-2 text-[0.94rem] leading-snug">
      {children}
    </p>
  )
}

/** What a text reads as, by the core, a moment after typing pauses. */
function useReadChart(kind: string, text: string): Read {
  const { units } = usePreferences()
  const [read, setRead] = useState<{ of: string; result: Read }>({
    of: '',
    result: { status: 'empty' },
  })
  const of = `${kind} ${units} ${text}`
  useEffect(() => {
    if (text.trim() === '') return
    const timer = setTimeout(() => {
      got(api.POST('/api/charts/read', { params: { query: { units } }, body: { kind, text } }))
        .then((chart) => setRead({ of, result: { status: 'ready', chart } }))
        .catch((error: unknown) => {
          const message = error instanceof Error ? error.message : String(error)
          const refused = error instanceof Refused ? message : `${message} It is kept here.`
          setRead({ of, result: { status: 'refused', message: refused } })
        })
    }, PAUSE_MS)
    return () => clearTimeout(timer)
  }, [kind, text, units, of])
  if (text.trim() === '') return { status: 'empty' }
  return read.of === of ? read.result : { status: 'reading' }
}
