import { useEffect, useState } from 'react'

/** Whether an element has been scrolled out of sight above, followed. */
export function usePast(): [(element: HTMLElement | null) => void, boolean] {
  const [element, setElement] = useState<HTMLElement | null>(null)
  const [isPast, setPast] = useState(false)
  useEffect(() => {
    if (!element) return
    const observer = new IntersectionObserver(([entry]) => {
      if (entry) setPast(!entry.isIntersecting && entry.boundingClientRect.bottom < 40)
    })
    observer.observe(element)
    return () => observer.disconnect()
  }, [element])
  return [setElement, isPast]
}
