import { useEffect, useState } from 'react'
import { serverNow } from '../../../state/clock'

/** The server's time [ms], a second at a time. */
export function useSeconds(): number {
  const [now, setNow] = useState(serverNow)
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), 1_000)
    return () => clearInterval(timer)
  }, [])
  return now
}
