import { Link } from 'react-router'
import type { ReactNode } from 'react'

type Props = { to: string; title: string; aside: ReactNode; below: string; more?: ReactNode }

/** A row of a list that leads somewhere: what, when, and a line more. */
export function LinkRow({ to, title, aside, below, more }: Props) {
  return (
    <li className="relative border-b border-rule">
      <Link to={to} className="block min-h-11 py-2 leading-snug">
        <span className="flex justify-between gap-3">
          <strong className="min-w-0 truncate">{title}</strong>
          <span className="shrink-0 text-[0.9rem] text-soft">{aside}</span>
        </span>
        <span className={`block text-[0.92rem] text-soft ${more ? 'pr-24' : ''}`}>{below}</span>
      </Link>
      {more && <div className="absolute right-0 -bottom-1">{more}</div>}
    </li>
  )
}
