import type { ReactNode } from 'react'

/** What a cell is, over it. */
export function Labelled({ head, children }: { head: string; children: ReactNode }) {
  return (
    <span className="flex flex-col text-[0.92rem] text-soft">
      <span aria-hidden>{head}</span>
      {children}
    </span>
  )
}
