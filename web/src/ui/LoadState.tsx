import type { ReactNode } from 'react'
import type { Loadable } from '../api/types'
import { Notice } from './Notice'

type Props<T> = { of: Loadable<T>; children: (data: T) => ReactNode }

/** Shows data, or plainly why there is none yet. */
export function LoadState<T>({ of, children }: Props<T>) {
  if (of.status === 'pending') {
    return (
      <p role="status" className="p-6 text-soft">
        Fetching.
      </p>
    )
  }
  if (of.status === 'error') {
    return (
      <div className="p-6">
        <Notice word="Not loaded.">{of.message}</Notice>
      </div>
    )
  }
  return children(of.data)
}
