import type { ChartDrawn, PresentPoint } from '../api/types'
import { formatNumber } from '../lib/format'

type Props = { chart: ChartDrawn; present?: PresentPoint | null }

/** A chart as its maker prints it, the present point between its rows and columns. */
export function ChartTable({ chart, present = null }: Props) {
  const { kind, rows, columns, cells } = chart
  const near = present === null ? null : around(rows, present.row)
  const across =
    present !== null && typeof present.column === 'number'
      ? around(columns as number[], present.column)
      : columns.length === 1
        ? [0]
        : columns.flatMap((c, j) => (String(c) === present?.column ? [j] : []))
  const isNear = (i: number, j: number) =>
    present?.value != null && (near?.includes(i) ?? false) && across.includes(j)
  return (
    <div className="overflow-x-auto py-2">
      {present !== null && (
        <p className="pb-2 leading-snug">
          {present.value === null ? (
            present.message
          ) : (
            <>
              Today, at {formatNumber(present.row, 1)} {kind.row.unit}
              {typeof present.column === 'number' &&
                ` and ${formatNumber(present.column, 1)} ${kind.column?.unit ?? ''}`}
              :{' '}
              <strong>
                {formatNumber(present.value, 1)} {kind.cell.unit}
              </strong>
            </>
          )}
        </p>
      )}
      <p className="pb-1 text-[0.85rem] leading-snug text-soft">
        {kind.cell.label}, {kind.cell.unit}, by {kind.row.label}, {kind.row.unit}
        {kind.column ? `, and ${kind.column.label}, ${kind.column.unit}` : ''}
      </p>
      <table aria-label={kind.label} className="text-right text-[0.94rem]">
        <thead>
          <tr className="border-b-2 border-ink">
            <td />
            {columns.map((column) => (
              <th key={String(column)} scope="col" className="px-2.5 py-1 font-bold">
                {typeof column === 'number' ? formatNumber(column, 1) : column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row} className="border-b border-rule">
              <th scope="row" className="py-1 pr-3 font-bold">
                {formatNumber(row, row % 1 === 0 ? 0 : 1)}
              </th>
              {columns.map((column, j) => {
                const cell = cells[i]?.[j]
                return (
                  <td
                    key={String(column)}
                    data-near={isNear(i, j)}
                    className="px-2.5 py-1 data-[near=true]:font-bold data-[near=true]:outline-3 data-[near=true]:-outline-offset-2 data-[near=true]:outline-accent"
                  >
                    {cell == null ? '·' : formatNumber(cell, cell % 1 === 0 ? 0 : 1)}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** The places of the values a number lies between, or of the one it is. */
function around(axis: number[], value: number): number[] {
  const exact = axis.findIndex((one) => Math.abs(one - value) < 1e-6)
  if (exact >= 0) return [exact]
  const above = axis.findIndex((one) => one > value)
  return above > 0 ? [above - 1, above] : []
}
