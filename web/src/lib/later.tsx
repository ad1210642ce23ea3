import { lazy, useState, type ComponentType } from 'react'

const loads: (() => Promise<unknown>)[] = []

/**
 * A part that is loaded after the first screen stands: fetched as soon as the browser is idle, so
 * that it is there when it is wanted, with or without a network. Where the server is gone just
 * then the part is waited for; the rest of the page goes on.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): Later<P> {
  let there: ComponentType<P> | null = null
  const once = async () => (there ??= await load())
  const Waited = lazy(async () => ({ default: await inTheEnd(once) }))
  loads.push(once)
  const Part = (props: P) => {
    const [Known] = useState<ComponentType<P>>(() => there ?? Waited) // the same while it stands
    return <Known {...props} />
  }
  return Object.assign(Part, { fetch: () => once().then(noted, noted) })
}

/** What is there when it is first drawn is drawn at once: what was waited for, React holds back. */
type Later<P> = ComponentType<P> & {
  /** Fetch it now, where it is known to be wanted next; it never fails. */
  fetch: () => Promise<void>
}

function noted(): void {
  // where it could not be had it is asked for again when it is drawn
}

const FIRST_MS = 900
const AT_ONCE = 4

/**
 * Fetch what was put off, a few at a time, once the page has nothing better to do: while it waits
 * for its first numbers it is idle too, and they would wait for all of it.
 */
export function loadTheRest(): void {
  setTimeout(() => void someOfIt(), FIRST_MS)
}

async function someOfIt(): Promise<void> {
  await idle()
  await Promise.all(loads.splice(0, AT_ONCE).map((load) => load().catch(() => undefined)))
  if (loads.length > 0) void someOfIt()
}

function idle(): Promise<void> {
  return new Promise((go) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => go(), { timeout: 2_000 })
    else setTimeout(go, 50)
  })
}

const AGAIN_MS = 1_000
const LONGEST_MS = 8_000
const RENEWED = 'nudge.renewed'
const RENEW_MS = 60_000

/** A part, however often it has to be asked for; a page older than its server is loaded anew. */
async function inTheEnd<T>(load: () => Promise<T>): Promise<T> {
  let answered = false
  for (let wait = AGAIN_MS; ; wait = Math.min(2 * wait, LONGEST_MS)) {
    try {
      return await load()
    } catch {
      if (answered) renew() // it is there and has no such part: it was not only gone
      await new Promise((go) => setTimeout(go, wait))
      answered = wait > AGAIN_MS && (await serverAnswers())
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
