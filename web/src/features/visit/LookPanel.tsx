import type { Look, Opened } from '../../api/types'
import { OpenNumber } from '../../ui/Opened'

/** The look without gauges: leave the caps on, or connect, with the estimates behind it. */
export function LookPanel({ look }: { look: Look }) {
  return (
    <section
      aria-label="Look without gauges"
      data-look={look.decision}
      className="border-2 border-dashed border-ink p-3"
    >
      <p className="text-[0.92rem] text-soft">Without gauges, from air and lines alone</p>
      <p className="border-l-8 border-accent pl-4 text-[1.7rem] leading-tight font-bold">
        {look.headline}
      </p>
      <ul className="mt-2 max-w-[84ch]">
        {look.reasons.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      {look.missing.length > 0 && (
        <p className="mt-1">
          <strong>Read also:</strong> {look.missing.join(', ').toLowerCase()}.
        </p>
      )}
      <dl className="mt-3 grid grid-cols-2 gap-x-5 gap-y-3 lg:grid-cols-4">
        <Estimate side="low" ways={look.evaporator} name="Evaporator saturation" />
        <Estimate side="low" ways={one(look.superheat)} name="Superheat" />
        <Estimate side="high" ways={look.condenser} name="Condenser saturation" />
        <Estimate side="high" ways={one(look.subcooling)} name="Subcooling" />
      </dl>
    </section>
  )
}

const one = (number: Opened | null) => (number === null ? [] : [number])

type EstimateProps = { side: 'low' | 'high'; ways: Opened[]; name: string }

/** An estimate by its best way, and what the other ways say. */
function Estimate({ side, ways, name }: EstimateProps) {
  const [best, ...others] = ways
  return (
    <div
      data-side={side}
      className="min-w-0 border-l-4 pl-3 data-[side=high]:border-dashed data-[side=high]:border-high data-[side=low]:border-solid data-[side=low]:border-low"
    >
      <dt className="truncate text-[0.92rem] text-soft">{name}</dt>
      <dd>
        {best === undefined ? (
          <p className="text-[1.7rem] leading-tight">—</p>
        ) : (
          <>
            <p className="text-[1.7rem] leading-tight font-bold whitespace-nowrap">
              <OpenNumber number={best}>≈ {best.text}</OpenNumber>
            </p>
            <p className="text-[0.88rem] text-soft">{best.uncertainty_text}</p>
            {others.map((way) => (
              <p key={way.key} className="text-[0.88rem] leading-snug text-soft">
                <OpenNumber number={way}>{`${way.text} ${wayWord(way.label)}`}</OpenNumber>
              </p>
            ))}
          </>
        )}
      </dd>
    </div>
  )
}

/** The way in a word: what stands after the comma of its label. */
const wayWord = (label: string) => `by ${label.split(', ')[1] ?? label}`
