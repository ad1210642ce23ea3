import type { Check, Form, Units, Visit } from '../../../api/types'
import { Blanks } from '../../../parts/Blanks'
import { useFilled } from '../../../state/filled'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Props = {
  visit: Visit
  units: Units
  form: Form
  /** What stands in it: of this visit, or of its labels' last. */
  check: Check | undefined
  onDone: () => void
}

/** A check's own form: choices as buttons, numbers with their units. */
export function CheckForm({ visit, units, form, check, onDone }: Props) {
  const filled = useFilled(
    form.blanks,
    Object.fromEntries(
      Object.entries({ ...check?.remembered, ...check?.entries }).map(([k, v]) => [k, String(v)]),
    ),
  )
  const { entries } = filled
  const isWhole = Object.keys(entries).length > 0 && filled.isWhole
  return (
    <form
      aria-label={form.label}
      className="mt-1 border-l-2 border-rule-strong pl-4"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWhole) return
        writeOn(visit.id, 'checks', { key: form.key, entries }, units)
        onDone()
      }}
    >
      {form.caution !== '' && <Care word="Care:">{form.caution}</Care>}
      <Blanks blanks={form.blanks} filled={filled} />
      <Button type="submit" className="mt-3" disabled={!isWhole}>
        Keep it
      </Button>
    </form>
  )
}
