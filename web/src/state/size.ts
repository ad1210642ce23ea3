import { useLayoutEffect, useState } from 'react'

export type Size = { width: number; height: number }

/** How large an element is drawn, followed as it changes; also when it comes later. */
export function useSize(first: Size): [(element: HTMLElement | null) => void, Size] {
  const [element, setElement] = useState<HTMLElement | null>(null)
  const [size, setSize] = useState(first)
  useLayoutEffect(() => {
    if (!element) return
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight })
    measure() // before the first paint: nothing is drawn in a wrong size
    const observer = new ResizeObserver(measure)
    observer.observe(element)
    return () => observer.disconnect()
  }, [element])
  return [setElement, size]
}
