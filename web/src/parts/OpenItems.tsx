import type { Deferred, Units } from '../api/types'
import { lowered } from '../lib/format'
import { post } from '../state/outbox'
import { Button } from '../ui/Button'

type Props = { items: Deferred[]; units: Units }

/** What is left for later, each to be ticked off. */
export function OpenItems({ items, units }: Props) {
  return (
    <ul>
      {items.map((item) => (
        <li
          key={item.id}
          data-deferred={item.id}
          className="flex items-center gap-3 border-b border-rule py-1.5"
        >
          <span className="min-w-0 flex-1 leading-snug">
            {item.text} <span className="text-soft">· {lowered(item.season)}</span>
          </span>
          <Button
            tight
            aria-label={`Done: ${item.text}`}
            onClick={() =>
              post(
                '/api/deferred/{deferred_id}',
                { done: true },
                { units, blanks: { deferred_id: item.id } },
              )
            }
          >
            Done
          </Button>
        </li>
      ))}
    </ul>
  )
}
