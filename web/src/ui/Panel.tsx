import { Dialog } from 'radix-ui'
import { createContext, useContext, type ReactNode } from 'react'

/** Where panels open on a wide screen: the drawer. On a phone there is none: a half sheet. */
export const PanelSlot = createContext<HTMLElement | null>(null)

type Props = {
  open: boolean
  onClose: () => void
  title: string
  children: ReactNode
}

/** What is being done, beside the numbers it is done by. It covers no drawing. Esc closes it. */
export function Panel({ open, onClose, title, children }: Props) {
  const slot = useContext(PanelSlot)
  const place = slot
    ? 'absolute inset-0 px-1'
    : 'fixed inset-x-0 bottom-0 max-h-[46dvh] rounded-t-lg border-t-2 border-ink px-4 shadow-[0_-8px_24px_rgb(0_0_0/0.18)]'
  return (
    <Dialog.Root open={open} modal={false} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal container={slot ?? undefined}>
        <Dialog.Content
          aria-describedby={undefined}
          data-panel={slot ? 'drawer' : 'sheet'}
          onInteractOutside={(event) => event.preventDefault()}
          className={`${place} z-20 overflow-auto overscroll-contain bg-ground pb-2`}
        >
          <div className="sticky top-0 z-10 mb-2 flex items-center justify-between gap-4 border-b border-rule-strong bg-ground py-1">
            <Dialog.Title className="text-[1.1rem] font-bold">{title}</Dialog.Title>
            <Dialog.Close className="min-h-11 min-w-11 rounded border border-rule-strong px-3">
              Back
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
