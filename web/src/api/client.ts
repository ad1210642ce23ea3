import createClient from 'openapi-fetch'
import type { paths } from './schema'
import type { Problem } from './types'
import { learnClock } from '../state/clock'

/** The server answered, and refused. Sending the same again will not help. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problems: Problem[],
  ) {
    super(problems.map((problem) => problem.message).join(' '))
  }
}

/** No answer: the server is down or the network is gone. Worth trying again. */
export class NoAnswer extends Error {
  constructor() {
    super('Nudge’s server is not answering. What you type is kept here until it does.')
  }
}

/** The server cannot write just now, and says why: the same is tried again, nothing is lost. */
export class Unready extends NoAnswer {
  constructor(readonly reason: string) {
    super()
    this.message = reason
  }
}

/** The server answered that it broke. Trying again may help; trying for ever does not. */
export class Broken extends Error {
  constructor(readonly status: number) {
    super(`Nudge broke on this (${status}). It is kept here; try again, or take it out.`)
  }
}

const PATIENCE_MS = 15_000
/** Longer than the server itself gives a file to be checked: its own words come first. */
const FILE_PATIENCE_MS = 200_000

/** Every route by its path, with the types of what it takes and answers. Ask through `got`. */
export const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (asked) => patiently(asked, PATIENCE_MS),
})

/** What a request of `api` answered. Throws `Refused`, `Broken` or `NoAnswer`. */
export async function got<T>(asked: Promise<{ data?: T }>): Promise<T> {
  return (await asked).data as T
}

/** A file as it is, for what takes bytes. Throws like `got`. */
export async function send<T>(method: 'POST' | 'PUT', path: string, file: Blob): Promise<T> {
  const headers = { 'Content-Type': 'application/octet-stream' }
  const asked = new Request(`/api${path}`, { method, body: file, headers })
  return bodyOf<T>(await patiently(asked, FILE_PATIENCE_MS))
}

/** A write as it was kept in the browser, sent as it stands. Throws like `got`. */
export async function sendKept(method: string, path: string, body: unknown): Promise<unknown> {
  const headers = { 'Content-Type': 'application/json' }
  const asked = new Request(`/api${path}`, { method, body: JSON.stringify(body), headers })
  return bodyOf<unknown>(await patiently(asked, PATIENCE_MS))
}

/** What an answer says. One cut off on its way is no answer: what was asked is sent again. */
async function bodyOf<T>(answer: Response): Promise<T> {
  try {
    return (await answer.json()) as T
  } catch {
    throw new NoAnswer()
  }
}

async function patiently(asked: Request, patienceMs: number): Promise<Response> {
  let response: Response
  const askedAt = Date.now()
  try {
    response = await fetch(asked, { signal: AbortSignal.timeout(patienceMs) })
  } catch {
    throw new NoAnswer()
  }
  learnClock(response.headers.get('date'), askedAt)
  if (response.ok) return response
  const answer = (await response.json().catch(() => ({}))) as { errors?: Problem[] }
  if (response.status === 503 && answer.errors?.[0]) throw new Unready(answer.errors[0].message)
  if (response.status >= 500) throw new Broken(response.status)
  throw new Refused(
    response.status,
    answer.errors ?? [
      { what: 'request', message: `The server refused it (${response.status}).`, nearest: [] },
    ],
  )
}
