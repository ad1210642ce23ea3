import type { Units, Visit } from '../../../api/types'

type Props = { visit: Visit; units: Units }

const LINK =
  'inline-flex min-h-11 items-center rounded border border-rule-strong bg-sheet px-3 text-[0.95rem]'

/** What leaves Nudge: two reports, the readings, the whole visit as one file. */
export function Papers({ visit, units }: Props) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const here = `/api/visits/${visit.id}`
  const query = `units=${units}&zone=${encodeURIComponent(zone)}`
  return (
    <div role="group" aria-label="Papers" className="flex flex-wrap gap-2">
      <a
        className={LINK}
        href={`${here}/report.pdf?${query}&whom=customer`}
        target="_blank"
        rel="noreferrer"
      >
        Report for the customer
      </a>
      <a className={LINK} href={`${here}/report.pdf?${query}`} target="_blank" rel="noreferrer">
        Record for the file
      </a>
      {[58, 80].map((width) => (
        <a
          key={width}
          className={LINK}
          href={`${here}/slip.pdf?${query}&width=${width}`}
          target="_blank"
          rel="noreferrer"
        >
          Roll slip, {width} mm
        </a>
      ))}
      <a className={LINK} href={`${here}/readings.csv?units=${units}`} download>
        Readings, CSV
      </a>
      <a className={LINK} href={`${here}/bundle.json`} download>
        Visit, JSON
      </a>
    </div>
  )
}
