import { Tabs } from 'radix-ui'
import type { ReactNode } from 'react'

export const TABS = ['Why', 'Next', 'Readings', 'Steps'] as const
export type Tab = (typeof TABS)[number]

type Props = {
  tab: Tab
  onTab: (tab: Tab) => void
  /** Where panels open, on a wide screen. */
  slot: (element: HTMLElement | null) => void
  children: Record<Tab, ReactNode>
}

/** Beside the stage, one of four open; it scrolls by itself. */
export function Drawer({ tab, onTab, slot, children }: Props) {
  return (
    <div className="relative min-h-0 min-w-0 lg:border-l lg:border-rule">
      <Tabs.Root
        value={tab}
        onValueChange={(next) => onTab(next as Tab)}
        className="flex h-full min-h-0 flex-col"
      >
        <Tabs.List
          aria-label="About this visit"
          className="flex shrink-0 border-b border-rule-strong bg-ground max-lg:sticky max-lg:top-0 max-lg:z-[5] lg:pl-3"
        >
          {TABS.map((name) => (
            <Tabs.Trigger
              key={name}
              value={name}
              onClick={() => onTab(name)}
              className="min-h-12 flex-1 border-b-4 border-transparent px-1 text-soft data-[state=active]:border-ink data-[state=active]:font-bold data-[state=active]:text-ink lg:min-h-11"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {TABS.map((name) => (
          <Tabs.Content
            key={name}
            value={name}
            data-tab={name}
            forceMount
            tabIndex={-1}
            className="relative flex min-h-40 min-w-0 flex-col gap-5 pt-3 pb-6 outline-none data-[state=inactive]:hidden lg:min-h-0 lg:flex-1 lg:overflow-x-hidden lg:overflow-y-auto lg:px-3"
          >
            {children[name]}
          </Tabs.Content>
        ))}
      </Tabs.Root>
      <div ref={slot} className="contents" />
    </div>
  )
}
