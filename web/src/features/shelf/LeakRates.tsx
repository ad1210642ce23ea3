import { useState } from 'react'
import { Link } from 'react-router'
import type { Ledger, Units } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { post } from '../../state/outbox'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'

/** How fast each system loses its charge, by both usual methods, against this workshop's limit. */
export function LeakRates({ book, units }: { book: Ledger; units: Units }) {
  const [text, setText] = useState(String(book.threshold))
  const percent = Number(text.trim().replace(',', '.'))
  const isNew = percent > 0 && percent <= 100 && percent !== book.threshold
  return (
    <section aria-label="Leak rates">
      <Heading aside="a year">Systems that lose it</Heading>
      {book.leaks.length === 0 && <p className="py-3">No system has had any added.</p>}
      <ul>
        {book.leaks.map((one) => (
          <li key={one.system_id} data-leak={one.is_over} className="border-b border-rule py-2">
            <Link
              to={`/systems/${one.system_id}`}
              className="inline-flex min-h-11 items-center font-bold underline decoration-rule-strong underline-offset-4"
            >
              {one.site}, {one.system}
            </Link>
            <p>
              {formatNumber(one.added, 1)} {one.unit} added.{' '}
              {one.rolling === null
                ? 'The plate does not say its full charge, so there is no rate.'
                : `${formatNumber(one.rolling, 1)} % in the last year`}
              {one.annualised !== null &&
                `, ${formatNumber(one.annualised, 1)} % by the last two additions`}
              {one.rolling !== null && '.'}
            </p>
            {one.is_over && (
              <p className="border-l-4 border-alarm pl-2">
                <strong>Over {formatNumber(book.threshold, 0)} %.</strong> Find the leak before
                anything more goes in.
              </p>
            )}
          </li>
        ))}
      </ul>
      <form
        className="mt-3 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (!isNew) return
          post('/api/ledger/threshold', { percent }, { units })
        }}
      >
        <label className="flex items-center gap-2">
          Act over
          <input
            inputMode="decimal"
            value={text}
            onChange={(event) => setText(event.target.value)}
            className="h-11 w-20 rounded border border-rule-strong bg-ground px-2"
          />
          % a year
        </label>
        <Button type="submit" disabled={!isNew}>
          Set
        </Button>
      </form>
      <p className="mt-2 text-[0.9rem] text-soft">
        Usual regulatory values: 10 comfort cooling, 20 commercial refrigeration, 30 industrial.
        Local code decides.
      </p>
    </section>
  )
}
