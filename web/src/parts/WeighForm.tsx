import { useState } from 'react'
import type { Cylinder, Units } from '../api/types'
import { formatNumber, numberIn } from '../lib/format'
import { newId } from '../lib/ids'
import { post } from '../state/outbox'
import { Button } from '../ui/Button'

type Props = { cylinder: Cylinder; units: Units; visitId?: string; label?: string }

/** A pound: further off the book than that, it is asked whether it is this cylinder. */
const KNOCKED: Record<Units, number> = { ip: 1, si: 0.45, si_bar: 0.45 }

/** What the scale shows of a cylinder, into the book; tied to a visit where one is given. */
export function WeighForm({ cylinder, units, visitId, label = 'Weigh it' }: Props) {
  const [text, setText] = useState('')
  const [sure, setSure] = useState(false)
  const gross = numberIn(text)
  const isWeight = gross !== null && gross >= cylinder.tare - 0.1
  const off = isWeight ? gross - cylinder.gross : 0
  const isFar = Math.abs(off) > KNOCKED[units]
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWeight || (isFar && !sure)) return
        const id = newId()
        const body = { id, gross, sure, ...(visitId === undefined ? {} : { visit_id: visitId }) }
        const blanks = { cylinder_id: cylinder.id }
        post('/api/cylinders/{cylinder_id}/weighings', body, { id, units, blanks })
        setText('')
        setSure(false)
      }}
    >
      <label className="flex items-center gap-2">
        <span className="sr-only">
          Weight of {cylinder.name} now, {cylinder.unit}
        </span>
        <input
          inputMode="decimal"
          value={text}
          placeholder={formatNumber(cylinder.gross, 2)}
          onChange={(event) => setText(event.target.value)}
          className="h-11 w-24 rounded border border-rule-strong bg-ground px-2 tabular-nums placeholder:text-soft"
        />
        {cylinder.unit}
      </label>
      <Button type="submit" disabled={!isWeight || (isFar && !sure)}>
        {label}
      </Button>
      {isFar && (
        <label className="flex min-h-11 basis-full items-center gap-3 border-l-4 border-alarm pl-2">
          <input
            type="checkbox"
            className="h-6 w-6"
            checked={sure}
            onChange={(event) => setSure(event.target.checked)}
          />
          {formatNumber(Math.abs(off), 2)} {cylinder.unit} {off < 0 ? 'under' : 'over'} the book. It
          is this cylinder, standing free and still.
        </label>
      )}
    </form>
  )
}
