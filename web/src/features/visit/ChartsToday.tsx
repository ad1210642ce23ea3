import type { ChartToday } from '../../api/types'
import { ChartTable } from '../../ui/ChartTable'
import { Heading } from '../../ui/Heading'

/** The maker's charts of this system, with today's point on each. */
export function ChartsToday({ charts }: { charts: ChartToday[] }) {
  return charts.map(({ chart, present }) => (
    <section key={chart.kind.key} aria-label={chart.kind.label}>
      <Heading aside="maker’s chart">{chart.kind.label}</Heading>
      <ChartTable chart={chart} present={present} />
    </section>
  ))
}
