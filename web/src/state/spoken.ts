import { createContext, useContext } from 'react'

/** What a sentence on screen is speaking of: drawings and numbers mark it while it is pointed at. */
export type Spoken = {
  /** Signs and derived quantities. */
  signs: string[]
  /** Readings they rest on. */
  points: string[]
  /** A suspect, so that a drawing can show where it would put the system. */
  suspect: string | null
}

export const NOTHING: Spoken = { signs: [], points: [], suspect: null }

export const SpokenContext = createContext<{ spoken: Spoken; speakOf: (of: Spoken) => void }>({
  spoken: NOTHING,
  speakOf: () => undefined,
})

export function useSpoken() {
  return useContext(SpokenContext)
}

/** Pointing at an element, with the mouse or the keyboard, speaks of something. */
export function pointing(of: Spoken, speakOf: (of: Spoken) => void) {
  return {
    onMouseEnter: () => speakOf(of),
    onMouseLeave: () => speakOf(NOTHING),
    onFocus: () => speakOf(of),
    onBlur: () => speakOf(NOTHING),
  }
}
