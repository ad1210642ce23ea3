import { useContext, useState, type ReactNode } from 'react'
import { useWorkings } from '../../api/queries'
import type { Loadable, Opened } from '../../api/types'
import { OpensContext } from '../../state/opens'
import { OpenButton, OpenedCard } from '../../ui/Opened'

type Props = {
  visitId: string
  of: string
  label: string
  className?: string
  children: ReactNode
}

/** A number of the visit that opens to how it came about; asked for only when opened. */
export function OpenWorking({ visitId, of, label, className = '', children }: Props) {
  const [open, setOpen] = useState(false)
  const opens = useContext(OpensContext)
  if (!opens) return <span className={className}>{children}</span>
  return (
    <>
      <OpenButton label={label} className={className} onOpen={() => setOpen(true)}>
        {children}
      </OpenButton>
      {open && <Asked visitId={visitId} of={of} label={label} onClose={() => setOpen(false)} />}
    </>
  )
}

type AskedProps = { visitId: string; of: string; label: string; onClose: () => void }

function Asked({ visitId, of, label, onClose }: AskedProps) {
  const workings = useWorkings(visitId)
  const found = one(workings, of)
  const title = found.status === 'ready' ? found.data.label : label
  return <OpenedCard title={title} of={found} open onClose={onClose} />
}

function one(workings: Loadable<Record<string, Opened>>, key: string): Loadable<Opened> {
  if (workings.status !== 'ready') return workings
  const data = workings.data[key]
  return data === undefined
    ? { status: 'error', message: 'This number is not there any more. Close this and look again.' }
    : { status: 'ready', data, refreshing: workings.refreshing }
}
