import { useEffect, useState } from 'react'
import { serverNow } from './clock'

const TICK_MS = 10_000

/** The time, kept fresh enough for minutes. */
export function useNow(): Date {
  const [now, setNow] = useState(() => new Date(serverNow()))
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date(serverNow())), TICK_MS)
    return () => clearInterval(timer)
  }, [])
  return now
}
