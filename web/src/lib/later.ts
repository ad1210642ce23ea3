import { lazy, type ComponentType } from 'react'

const loads: (() => Promise<unknown>)[] = []

/**
 * A part that is loaded after the first screen stands: fetched as soon as the browser is idle, so
 * that it is there when it is wanted, with or without a network. Where the server is gone just
 * then the part is waited for; the rest of the page goes on.
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- any props: that is what lazy takes
export function later<T extends ComponentType<any>>(load: () => Promise<T>) {
  loads.push(load)
  return lazy(async () => ({ default: await inTheEnd(load) }))
}

/** Fetch what was put off, once the page has nothing better to do. */
export function loadTheRest(): void {
  const run = () => loads.splice(0).forEach((load) => void load().catch(() => undefined))
  if ('requestIdleCallback' in window) requestIdleCallback(run, { timeout: 4_000 })
  else setTimeout(run, 1_500)
}

const AGAIN_MS = 1_000
const LONGEST_MS = 8_000
const RENEWED = 'nudge.renewed'
const RENEW_MS = 60_000

/** A part, however often it has to be asked for; a page older than its server is loaded anew. */
async function inTheEnd<T>(load: () => Promise<T>): Promise<T> {
  for (let wait = AGAIN_MS; ; wait = Math.min(2 * wait, LONGEST_MS)) {
    try {
      return await load()
    } catch {
      await new Promise((go) => setTimeout(go, wait))
      if (wait > AGAIN_MS && (await serverAnswers())) renew()
    }
  }
}

async function serverAnswers(): Promise<boolean> {
  try {
    return (await fetch('/api/health')).ok
  } catch {
    return false
  }
}

/** What is typed outlives it; once a minute at most. */
function renew(): void {
  if (Date.now() - Number(sessionStorage.getItem(RENEWED) ?? 0) < RENEW_MS) return
  sessionStorage.setItem(RENEWED, String(Date.now()))
  window.location.reload()
}
