import { useEffect, useState } from 'react'

const TICK_MS = 10_000

/** The time, kept fresh enough for minutes. */
export function useNow(): Date {
  const [now, setNow] = useState(() => new Date())
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), TICK_MS)
    return () => clearInterval(timer)
  }, [])
  return now
}
