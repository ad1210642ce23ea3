import type { TestKind, Units, Visit } from '../../../api/types'
import { Blanks } from '../../../parts/Blanks'
import { useFilled } from '../../../state/filled'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { Care } from '../../../ui/Care'

type Props = { visit: Visit; units: Units; kind: TestKind; onBegun: () => void }

/** How a test is done, what it asks, its cautions; and its beginning. */
export function BeginTest({ visit, units, kind, onBegun }: Props) {
  const filled = useFilled(kind.blanks)
  const begin = () => {
    writeOn(visit.id, 'tests', { test: kind.key, settings: filled.entries }, units)
    onBegun()
  }
  return (
    <form
      aria-label={kind.label}
      onSubmit={(event) => {
        event.preventDefault()
        if (filled.isWhole) begin()
      }}
    >
      <p>{kind.why}</p>
      {kind.cautions.map((line) => (
        <Care key={line} word="Care:">
          {line}
        </Care>
      ))}
      <Button
        type="submit"
        className="my-3 w-full border-2 !border-ink font-bold"
        disabled={!filled.isWhole}
      >
        Begin
      </Button>
      <ol className="list-decimal pl-5 text-[0.95rem] leading-snug">
        {kind.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      <Blanks blanks={kind.blanks} filled={filled} />
    </form>
  )
}
