import { useState } from 'react'
import { api, got } from '../../api/client'
import { queryClient } from '../../api/queries'
import type { ZoneParts } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { PipesDrawn } from './PipesDrawn'
import { RoomsDrawn } from './RoomsDrawn'

type Props = { systemId: string }
const READ_BY_IT = ['visit', 'zones', 'weigh-in']

/** The plant’s drawing, put right after its log was read: its log is read by it again. */
export function PlantDrawn({ systemId }: Props) {
  const [parts, setParts] = useState<ZoneParts | null>(null)
  const [taken, setTaken] = useState(0) // fields begin anew with what a file says
  const { said: problem, ask } = useAsking()
  const at = { params: { path: { system_id: systemId } } }
  const keep = (drawn: ZoneParts) =>
    ask(async () => {
      await got(api.PUT('/api/systems/{system_id}/zones', { ...at, body: drawn }))
      setParts(null)
      await Promise.all(READ_BY_IT.map((key) => queryClient.invalidateQueries({ queryKey: [key] })))
    })
  const take = (file: File) =>
    ask(async () => {
      const body = { text: await textOf(file) }
      setParts(await got(api.POST('/api/systems/{system_id}/zones/drawings', { ...at, body })))
      setTaken((count) => count + 1)
    })
  return (
    <>
      <button
        type="button"
        onClick={() =>
          void ask(async () => setParts(await got(api.GET('/api/systems/{system_id}/zones', at))))
        }
        className="min-h-11 underline underline-offset-4"
      >
        Put the drawing right
      </button>
      {problem !== '' && parts === null && <p role="alert">{problem}</p>}
      {parts && (
        <Panel open onClose={() => setParts(null)} title="The plant’s drawing">
          {problem !== '' && (
            <p role="alert" className="mb-3 border-l-4 border-alarm pl-3">
              {problem}
            </p>
          )}
          <form
            key={taken}
            onSubmit={(event) => {
              event.preventDefault()
              void keep(parts)
            }}
            className="flex flex-col gap-4"
          >
            <RoomsDrawn parts={parts} onChange={setParts} />
            <PipesDrawn parts={parts} onChange={setParts} />
            <Button weight="do" type="submit" className="self-start">
              Keep it
            </Button>
            <hr className="border-rule" />
            <label className="block">
              From a file: a line a room (number, name, storey, kW, pipe, height), or JSON. It is
              looked over here before it is kept.
              <input
                type="file"
                accept=".csv,.txt,.json"
                onChange={(event) => {
                  const file = event.target.files?.[0]
                  if (file) void take(file)
                }}
                className="mt-2 block min-h-11 w-full rounded border border-dashed border-rule-strong p-3"
              />
            </label>
          </form>
        </Panel>
      )}
    </>
  )
}

/** A file’s letters, in the encoding its first bytes say. */
async function textOf(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const [first, second] = bytes
  const wide = first === 0xff && second === 0xfe ? 'utf-16le' : 'utf-16be'
  const isWide = (first === 0xff && second === 0xfe) || (first === 0xfe && second === 0xff)
  return new TextDecoder(isWide ? wide : 'utf-8').decode(bytes)
}
