import type { Today } from '../../api/types'
import { formatNumber, lowered, shortTime } from '../../lib/format'
import { Heading } from '../../ui/Heading'
import { LinkRow } from '../../ui/LinkRow'
import { serverDate } from '../../state/clock'

/** What drifts, what leaks, and what was left for a season: only where there is something. */
export function Waiting({ today }: { today: Today }) {
  const left = today.left.filter((item) => item.is_in_season)
  const later = today.left.length - left.length
  return (
    <>
      {today.drifting.length > 0 && (
        <section aria-label="Drifting">
          <Heading aside={String(today.drifting.length)}>Drifting</Heading>
          <ul>
            {today.drifting.map((one) => (
              <LinkRow
                key={one.visit_id}
                to={`/systems/${one.system_id}`}
                title={one.place}
                aside={one.seen_at ? shortTime(one.seen_at, serverDate()) : ''}
                below={one.said}
              />
            ))}
          </ul>
        </section>
      )}
      {today.leaking.length > 0 && (
        <section aria-label="Leaking">
          <Heading aside={String(today.leaking.length)}>Leaking</Heading>
          <ul>
            {today.leaking.map((one) => (
              <LinkRow
                key={one.system_id}
                to={`/systems/${one.system_id}`}
                title={one.place}
                aside={`${formatNumber(one.rate, 0)} % a year`}
                below="Loses more than this workshop lets pass."
              />
            ))}
          </ul>
        </section>
      )}
      {today.left.length > 0 && (
        <section aria-label="Come back for">
          <Heading
            aside={
              later > 0 ? `${later} ${later === 1 ? 'waits for its' : 'wait for their'} season` : ''
            }
          >
            Come back for
          </Heading>
          {left.length === 0 && <p className="py-2 text-soft">Nothing’s season has come.</p>}
          <ul>
            {left.map((item) => (
              <LinkRow
                key={item.id}
                to={`/systems/${item.system_id}`}
                title={item.text}
                aside={item.due_on ?? ''}
                below={`${item.place} · ${lowered(item.season)}`}
              />
            ))}
          </ul>
        </section>
      )}
    </>
  )
}
