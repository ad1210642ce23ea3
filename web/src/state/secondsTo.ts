import { useEffect, useState } from 'react'
import { serverNow } from './clock'

/** Whole seconds left to a moment, never under zero. Counted from the clock, not from the page. */
export function useSecondsTo(moment: string): number {
  const [now, setNow] = useState(() => serverNow())
  useEffect(() => {
    const tick = setInterval(() => setNow(serverNow()), 1_000)
    return () => clearInterval(tick)
  }, [])
  return Math.max(Math.ceil((Date.parse(moment) - now) / 1_000), 0)
}
