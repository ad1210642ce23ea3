import type { ReactNode } from 'react'

type Props = { children: ReactNode; aside?: ReactNode }

/** A section's heading: small, set apart by a rule, with room for a word on the right. */
export function Heading({ children, aside }: Props) {
  return (
    <div className="flex items-baseline justify-between gap-3 border-b border-rule-strong pb-1">
      <h2 className="text-[1rem] font-bold">{children}</h2>
      {aside !== undefined && <span className="text-[0.88rem] text-soft">{aside}</span>}
    </div>
  )
}
