import type { ZoneLook } from '../../../api/types'

type Props = { look: ZoneLook; onChange: (look: ZoneLook) => void }

/** Words of a log that nobody knows: what each means, said once and remembered. */
export function CodesMeant({ look, onChange }: Props) {
  const asked = Object.entries(look.unknown)
  if (asked.length === 0) return null
  const mean = (point: string, word: string, code: string) => {
    const others = Object.entries(look.mapping.codes?.[point] ?? {}).filter(([key]) => key !== word)
    const own: [string, number][] = code === '' ? [] : [[word, Number(code)]]
    const told = Object.fromEntries([...others, ...own])
    onChange({
      ...look,
      mapping: { ...look.mapping, codes: { ...look.mapping.codes, [point]: told } },
    })
  }
  return (
    <fieldset>
      <legend className="font-bold">Words that want a meaning</legend>
      {asked.map(([point, words]) => {
        const row = look.points.find((one) => one.key === point)
        return words.map((word) => (
          <label
            key={`${point} ${word}`}
            className="flex min-h-11 items-center justify-between gap-3 border-b border-rule"
          >
            <span>
              {row?.label}: <strong>{word}</strong>
            </span>
            <select
              aria-label={`${row?.label ?? point} “${word}” means`}
              value={String(look.mapping.codes?.[point]?.[word] ?? '')}
              onChange={(event) => mean(point, word, event.target.value)}
              className="h-11 rounded border border-rule-strong bg-ground px-1"
            >
              <option value="">not known: left out</option>
              {Object.entries(row?.meanings ?? {}).map(([name, code]) => (
                <option key={name} value={code}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ))
      })}
    </fieldset>
  )
}
