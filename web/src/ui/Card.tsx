import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

type Props = {
  open: boolean
  onClose: () => void
  title: string
  children: ReactNode
}

/** A card over the screen. Esc closes it. */
export function Card({ open, onClose, title, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ground/80" />
        <Dialog.Content
          aria-describedby={undefined}
          data-modal
          className="fixed top-1/2 left-1/2 z-40 max-h-[90dvh] w-[min(40rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded border-2 border-ink bg-sheet p-5"
        >
          <div className="mb-3 flex items-center justify-between gap-4">
            <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
            <Dialog.Close className="min-h-11 min-w-11 rounded border border-rule-strong px-3">
              Close
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
