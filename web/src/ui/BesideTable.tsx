import type { ReactNode } from 'react'

type Props = { first?: string; last: string; children: ReactNode }

/** Rows of what was measured beside what it should be. */
export function BesideTable({ first = '', last, children }: Props) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="border-b border-rule-strong text-[0.92rem] text-soft">
          <td className="py-1">{first}</td>
          <th scope="col" className="py-1 text-right font-normal">
            measured
          </th>
          <th scope="col" className="py-1 text-right font-normal">
            {last}
          </th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  )
}
