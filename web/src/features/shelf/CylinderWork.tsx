import { useState } from 'react'
import { api, got } from '../../api/client'
import type { Contents, Cylinder, Units } from '../../api/types'
import { numberIn } from '../../lib/format'
import { newId } from '../../lib/ids'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'

type Props = { cylinder: Cylinder; all: Cylinder[]; units: Units }

const FIELD = 'h-11 rounded border border-rule-strong bg-ground px-2'

/** Filled, returned, moved into another; and what its pressure says is in it. */
export function CylinderWork({ cylinder, all, units }: Props) {
  return (
    <details className="mt-1">
      <summary className="flex min-h-11 cursor-pointer items-center underline decoration-rule-strong underline-offset-4">
        Fill, return, move, check contents
      </summary>
      <Move cylinder={cylinder} all={all} units={units} />
      <ContentsCheck cylinder={cylinder} units={units} />
    </details>
  )
}

const KINDS = [
  ['bought', 'Filled by'],
  ['returned', 'Returned'],
  ['moved', 'Moved into another'],
] as const

function Move({ cylinder, all, units }: Props) {
  const [kind, setKind] = useState<string>('bought')
  const [text, setText] = useState('')
  const [to, setTo] = useState('')
  const amount = numberIn(text)
  const others = all.filter(
    (one) => one.id !== cylinder.id && one.refrigerant === cylinder.refrigerant,
  )
  const isWhole = amount !== null && amount > 0 && (kind !== 'moved' || to !== '')
  return (
    <form
      aria-label={`Move refrigerant, ${cylinder.name}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWhole) return
        const id = newId()
        const body = { id, kind, amount, ...(kind === 'moved' ? { to } : {}) }
        const blanks = { cylinder_id: cylinder.id }
        post('/api/cylinders/{cylinder_id}/movements', body, { id, units, blanks })
        setText('')
      }}
    >
      <select
        aria-label="What happened"
        className={FIELD}
        value={kind}
        onChange={(event) => setKind(event.target.value)}
      >
        {KINDS.map(([key, label]) => (
          <option key={key} value={key} disabled={key === 'moved' && others.length === 0}>
            {label}
          </option>
        ))}
      </select>
      <label className="flex items-center gap-2">
        <input
          inputMode="decimal"
          aria-label={`How much, ${cylinder.unit}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className={`${FIELD} w-20`}
        />
        {cylinder.unit}
      </label>
      {kind === 'moved' && (
        <select
          aria-label="Into which cylinder"
          className={FIELD}
          value={to}
          onChange={(event) => setTo(event.target.value)}
        >
          <option value="">which one?</option>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
      <Button type="submit" disabled={!isWhole}>
        Enter it
      </Button>
    </form>
  )
}

/** Pressure at the metal's temperature tells liquid of this refrigerant from air in it. */
function ContentsCheck({ cylinder, units }: { cylinder: Cylinder; units: Units }) {
  const [temp, setTemp] = useState('')
  const [pressure, setPressure] = useState('')
  const [found, setFound] = useState<Contents | string | null>(null)
  const at = numberIn(temp)
  const degree = units === 'ip' ? '°F' : '°C'
  const gauge = units === 'ip' ? 'psig' : units === 'si' ? 'kPa' : 'bar'
  const ask = async () => {
    const kpa = numberIn(pressure)
    if (at === null) return
    const query = { units, temperature: at, ...(kpa === null ? {} : { pressure: kpa }) }
    try {
      const params = { path: { cylinder_id: cylinder.id }, query }
      setFound(await got(api.GET('/api/cylinders/{cylinder_id}/contents', { params })))
    } catch (error) {
      setFound(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <form
      aria-label={`Check contents, ${cylinder.name}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault()
        if (at !== null) void ask()
      }}
    >
      <label className="flex items-center gap-2">
        <input
          inputMode="decimal"
          aria-label={`Cylinder temperature, ${degree}`}
          value={temp}
          onChange={(event) => setTemp(event.target.value)}
          className={`${FIELD} w-16`}
        />
        {degree}
      </label>
      <label className="flex items-center gap-2">
        <input
          inputMode="decimal"
          aria-label={`Its pressure, ${gauge}`}
          value={pressure}
          onChange={(event) => setPressure(event.target.value)}
          className={`${FIELD} w-20`}
        />
        {gauge}
      </label>
      <Button type="submit" disabled={at === null}>
        What is in it?
      </Button>
      {found !== null && (
        <p role="status" className="basis-full leading-snug">
          {typeof found === 'string' ? (
            found
          ) : (
            <>
              Pure, it shows {found.expected} {found.unit}, within {found.tolerance}.{' '}
              <strong>{found.message}</strong>
            </>
          )}
        </p>
      )}
    </form>
  )
}
