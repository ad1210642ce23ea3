import { useSyncExternalStore } from 'react'

/** Whether a media query holds, kept up to date. */
function useMedia(query: MediaQueryList): boolean {
  return useSyncExternalStore(
    (tell) => {
      query.addEventListener('change', tell)
      return () => query.removeEventListener('change', tell)
    },
    () => query.matches,
  )
}

const hand = window.matchMedia('(max-width: 39.99em)')
const tablet = window.matchMedia('(min-width: 48em)')
const wide = window.matchMedia('(min-width: 64em)')
const desk = window.matchMedia('(min-width: 75em)')

/** Whether the screen is a hand's width: drawings then keep their lettering readable. */
export const useNarrow = () => useMedia(hand)

/** Whether the workspace stands in one column: what matters then comes first. */
export const useStacked = () => !useMedia(wide)

/** How many columns of cards fit side by side. */
export function useColumns(): number {
  const two = useMedia(tablet)
  const three = useMedia(desk)
  return three ? 3 : two ? 2 : 1
}
