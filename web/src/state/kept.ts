import { useSyncExternalStore } from 'react'

/** A value kept in this browser: survives reloads, shared by its tabs, safe when storage fails. */
export class Kept<T> {
  private value: T
  private readonly listeners = new Set<() => void>()

  constructor(
    private readonly key: string,
    initial: T,
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
      return text === null ? initial : (JSON.parse(text) as T)
    } catch {
      return initial
    }
  }
}

export function useKept<T>(kept: Kept<T>): T {
  return useSyncExternalStore(kept.subscribe, kept.get)
}
