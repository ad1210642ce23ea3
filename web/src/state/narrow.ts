import { useSyncExternalStore } from 'react'

const query = window.matchMedia('(max-width: 639px)')

/** Whether the screen is a hand's width: drawings then keep their lettering readable. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (tell) => {
      query.addEventListener('change', tell)
      return () => query.removeEventListener('change', tell)
    },
    () => query.matches,
  )
}
