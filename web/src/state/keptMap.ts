/**
 * Values kept in this browser under names of their own: one storage key each, so that two tabs
 * that write at the same moment never overwrite each other's.
 */
export class KeptMap<T> {
  private values = new Map<string, T>()
  private readonly listeners = new Set<() => void>()

  constructor(private readonly prefix: string) {
    this.readAll()
    window.addEventListener('storage', (event) => {
      if (event.key === null) this.readAll()
      else if (event.key.startsWith(prefix)) this.readOne(event.key)
      else return
      this.tell()
    })
  }

  /** A new map after every change, the same one between changes. */
  get = (): ReadonlyMap<string, T> => this.values

  set(name: string, value: T): void {
    this.values = new Map(this.values).set(name, value)
    try {
      localStorage.setItem(this.prefix + name, JSON.stringify(value))
    } catch {
      // A full or forbidden storage: the value still lives as long as this page does.
    }
    this.tell()
  }

  delete(name: string): void {
    this.values = new Map(this.values)
    this.values.delete(name)
    try {
      localStorage.removeItem(this.prefix + name)
    } catch {
      // Forbidden storage kept nothing.
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

  private readAll(): void {
    const found = new Map<string, T>()
    try {
      for (const key of Object.keys(localStorage).filter((one) => one.startsWith(this.prefix))) {
        const value = parsed(localStorage.getItem(key)) as T | undefined
        if (value !== undefined) found.set(key.slice(this.prefix.length), value)
      }
    } catch {
      // Forbidden storage holds nothing.
    }
    this.values = found
  }

  private readOne(key: string): void {
    const value = parsed(localStorage.getItem(key)) as T | undefined
    const name = key.slice(this.prefix.length)
    this.values = new Map(this.values)
    if (value === undefined) this.values.delete(name)
    else this.values.set(name, value)
  }
}

function parsed(text: string | null): unknown {
  try {
    return text === null ? undefined : JSON.parse(text)
  } catch {
    return undefined
  }
}
