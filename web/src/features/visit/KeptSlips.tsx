import type { Visit } from '../../api/types'
import { shortTime } from '../../lib/format'
import { Heading } from '../../ui/Heading'

type Props = { slips: Visit['slips']; now: Date }

/** Slips of the Pocket that were sent into this visit, as they came. */
export function KeptSlips({ slips, now }: Props) {
  if (slips.length === 0) return null
  return (
    <section aria-label="From the calculators">
      <Heading aside={String(slips.length)}>From the calculators</Heading>
      <ul>
        {slips.map((slip) => (
          <li key={slip.id} className="border-b border-rule py-2">
            <details>
              <summary className="flex min-h-8 cursor-pointer list-none items-center justify-between gap-3">
                <span className="font-bold">{slip.title}</span>
                <span className="text-[0.9rem] text-soft">{shortTime(slip.sent_at, now)}</span>
              </summary>
              <pre className="mt-1 font-sans text-[0.92rem] whitespace-pre-wrap">{slip.text}</pre>
            </details>
          </li>
        ))}
      </ul>
    </section>
  )
}
