import { useEffect, useState } from 'react'

/** Whole seconds left to a moment, never under zero. Counted from the clock, not from the page. */
export function useSecondsTo(moment: string): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 1_000)
    return () => clearInterval(tick)
  }, [])
  return Math.max(Math.ceil((Date.parse(moment) - now) / 1_000), 0)
}
