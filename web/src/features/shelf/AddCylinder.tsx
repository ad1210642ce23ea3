import { useState } from 'react'
import type { Units, Vocabulary } from '../../api/types'
import { newId } from '../../lib/ids'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'

type Props = {
  fluids: string[]
  kinds: Vocabulary['cylinder_kinds']
  units: Units
  onDone: () => void
}

const FIELD = 'mt-1 h-11 w-full rounded border border-rule-strong bg-ground px-2'

/** A cylinder as it stands on the scale: what it is, empty, and now. */
export function AddCylinder({ fluids, kinds, units, onDone }: Props) {
  const [name, setName] = useState('')
  const [refrigerant, setRefrigerant] = useState('R-410A')
  const [kind, setKind] = useState<'charging' | 'recovery'>('charging')
  const [tare, setTare] = useState('')
  const [gross, setGross] = useState('')
  const [water, setWater] = useState('')
  const unit = units === 'ip' ? 'lb' : 'kg'
  const weight = (text: string) => Number(text.trim().replace(',', '.'))
  const [empty, now, holds] = [weight(tare), weight(gross), weight(water)]
  const isWhole =
    name.trim() !== '' &&
    tare.trim() !== '' &&
    gross.trim() !== '' &&
    now >= empty &&
    (kind !== 'recovery' || holds > 0)
  return (
    <form
      aria-label="A new cylinder"
      className="mt-4 grid grid-cols-1 gap-3 border-y border-rule-strong py-4 sm:grid-cols-2 lg:grid-cols-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWhole) return
        const id = newId()
        const body = { id, name, refrigerant, kind, tare: empty, gross: now }
        const stamped = kind === 'recovery' ? { ...body, water_capacity: holds } : body
        post('/api/cylinders', stamped, { id, units })
        onDone()
      }}
    >
      <label>
        Name, as you call it
        <input autoFocus className={FIELD} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label>
        Refrigerant
        <select
          className={FIELD}
          value={refrigerant}
          onChange={(e) => setRefrigerant(e.target.value)}
        >
          {fluids.map((fluid) => (
            <option key={fluid}>{fluid}</option>
          ))}
        </select>
      </label>
      <label>
        For
        <select
          className={FIELD}
          value={kind}
          onChange={(e) => setKind(e.target.value === 'recovery' ? 'recovery' : 'charging')}
        >
          {kinds.map((one) => (
            <option key={one.key} value={one.key}>
              {one.label}
            </option>
          ))}
        </select>
      </label>
      <label>
        Empty, as stamped ({unit})
        <input
          inputMode="decimal"
          className={FIELD}
          value={tare}
          onChange={(e) => setTare(e.target.value)}
        />
      </label>
      <label>
        On the scale now ({unit})
        <input
          inputMode="decimal"
          className={FIELD}
          value={gross}
          onChange={(e) => setGross(e.target.value)}
        />
      </label>
      {kind === 'recovery' && (
        <label>
          Water capacity, as stamped ({unit})
          <input
            inputMode="decimal"
            className={FIELD}
            value={water}
            onChange={(e) => setWater(e.target.value)}
          />
        </label>
      )}
      <div className="flex items-end gap-3">
        <Button type="submit" weight="do" disabled={!isWhole}>
          Put it on the shelf
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </form>
  )
}
