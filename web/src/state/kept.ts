import { useSyncExternalStore } from 'react'

/** A value kept in this browser: survives reloads, shared by its tabs, safe when storage fails. */
export class Kept<T> {
  private value: T
  private readonly listeners = new Set<() => void>()

  constructor(
    private readonly key: string,
    initial: T,
    /** Whether what was kept can be used as it is. */
    private readonly isSound: (value: T) => boolean = () => true,
  ) {
    this.value = this.read(initial)
    window.addEventListener('storage', (event) => {
      if (event.key === key) {
        this.value = this.read(initial)
        this.tell()
      }
    })
  }

  get = (): T => this.value

  set = (value: T): void => {
    this.value = value
    try {
      localStorage.setItem(this.key, JSON.stringify(value))
    } catch {
      // A full or forbidden storage: the value still lives as long as this page does.
    }
    this.tell()
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  private tell(): void {
    for (const listener of this.listeners) listener()
  }

  private read(initial: T): T {
    try {
      const text = localStorage.getItem(this.key)
      const found = text === null ? initial : fitted(initial, JSON.parse(text))
      return this.isSound(found) ? found : initial
    } catch {
      return initial
    }
  }
}

/** What was kept, in the shape of what is expected: what is missing or of another kind is as at first. */
function fitted<T>(initial: T, found: unknown): T {
  if (Array.isArray(initial) || !isRecord(initial)) {
    return isAlike(initial, found) ? (found as T) : initial
  }
  if (!isRecord(found)) return initial
  const kept = Object.entries(found).filter(
    ([name, value]) => !(name in initial) || isAlike(initial[name], value),
  )
  return { ...initial, ...Object.fromEntries(kept) }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

const isAlike = (one: unknown, other: unknown) =>
  one === null ||
  (typeof one === typeof other && other !== null && Array.isArray(one) === Array.isArray(other))

export function useKept<T>(kept: Kept<T>): T {
  return useSyncExternalStore(kept.subscribe, kept.get)
}
