import { lazy, type ComponentType } from 'react'

const loads: (() => Promise<unknown>)[] = []

/**
 * A part that is loaded after the first screen stands: fetched as soon as the browser is idle, so
 * that it is there when it is wanted, with or without a network.
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- any props: that is what lazy takes
export function later<T extends ComponentType<any>>(load: () => Promise<T>) {
  loads.push(load)
  return lazy(async () => ({ default: await load() }))
}

/** Fetch what was put off, once the page has nothing better to do. */
export function loadTheRest(): void {
  const run = () => loads.splice(0).forEach((load) => void load().catch(() => undefined))
  if ('requestIdleCallback' in window) requestIdleCallback(run, { timeout: 4_000 })
  else setTimeout(run, 1_500)
}
