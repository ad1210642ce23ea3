import { useSyncExternalStore } from 'react'

/** Whether the card that finds anything is open: asked for by a key, the header, and Today. */
let open = false
const listeners = new Set<() => void>()

function set(value: boolean): void {
  open = value
  for (const listener of listeners) listener()
}

export const openFind = () => set(true)
export const closeFind = () => set(false)

export function useFinds(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => open,
  )
}
