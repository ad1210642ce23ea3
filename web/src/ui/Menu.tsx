import { DropdownMenu } from 'radix-ui'
import type { ReactNode } from 'react'

export type MenuRow = { label: string; run: () => void; key?: string; isDisabled?: boolean }

/** What is seldom needed, behind one button; arrows and letters move in it. */
export function Menu({
  label,
  rows,
  children,
}: {
  label: string
  rows: MenuRow[]
  children: ReactNode
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={label}
        className="grid h-11 min-w-11 place-items-center rounded text-[1.3rem] leading-none"
      >
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-40 max-h-[80dvh] min-w-60 overflow-auto rounded border-2 border-ink bg-sheet py-1"
        >
          {rows.map((row) => (
            <DropdownMenu.Item
              key={row.label}
              disabled={row.isDisabled ?? false}
              onSelect={row.run}
              className="flex min-h-11 cursor-pointer items-center justify-between gap-6 px-4 outline-none data-disabled:opacity-50 data-highlighted:bg-ink data-highlighted:text-ground"
            >
              {row.label}
              {row.key && <kbd className="font-mono text-[0.83rem] opacity-75">{row.key}</kbd>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
