import type { FileLook, FileMapping, Vocabulary } from '../../api/types'

type FirstRowsProps = { look: FileLook; mapping: FileMapping; vocabulary: Vocabulary }

/** A log’s first rows, each column under the point it is taken for. */
export function FirstRows({ look, mapping, vocabulary }: FirstRowsProps) {
  const labels = new Map(vocabulary.points.map((row) => [row.key, row.label]))
  const taken = (name: string) => {
    if (name === mapping.time) return 'the time'
    const column = mapping.columns.find((one) => one.name === name)
    return column?.point ? `${labels.get(column.point) ?? column.point}, ${column.unit}` : ''
  }
  return <TableStart heading={look.heading} rows={look.rows} titles={look.titles} taken={taken} />
}

type TableProps = {
  heading: string[]
  rows: string[][]
  titles: string[]
  /** What a column is taken for, in words; nothing where it is left out. */
  taken: (name: string) => string
}

/** The first rows as they stand in the file. */
export function TableStart({ heading, rows, titles, taken }: TableProps) {
  return (
    <figure className="mb-3">
      <figcaption className="mb-1 text-soft">
        {titles.length > 0 ? `Over the table: ${titles.join(' · ')}` : 'As it begins'}
      </figcaption>
      <div className="overflow-x-auto border border-rule" aria-label="First rows">
        <table className="font-mono text-[0.85rem] whitespace-nowrap">
          <thead>
            <tr>
              {heading.map((name) => (
                <th
                  key={name}
                  data-taken={taken(name) !== ''}
                  className="border-b-4 border-rule px-2 py-1 text-left font-bold data-[taken=true]:border-accent"
                >
                  {taken(name) || <span className="font-normal text-soft">left out</span>}
                </th>
              ))}
            </tr>
            <tr className="border-b border-rule">
              {heading.map((name) => (
                <th key={name} scope="col" className="px-2 py-1 text-left font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, 3).map((row, i) => (
              <tr key={i}>
                {heading.map((name, j) => (
                  <td key={name} className="px-2 py-1 tabular-nums">
                    {row[j] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  )
}
