import type { Problem } from './types'

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

/** The server answered that it broke. Trying again may help; trying for ever does not. */
export class Broken extends Error {
  constructor(readonly status: number) {
    super(`Nudge broke on this (${status}). It is kept here; try again, or take it out.`)
  }
}

const PATIENCE_MS = 15_000
const FILE_PATIENCE_MS = 120_000

/** A file as it is, for what takes bytes. Throws like `request`. */
export async function send<T>(method: 'POST' | 'PUT', path: string, file: Blob): Promise<T> {
  return await answered<T>(() =>
    fetch(`/api${path}`, {
      method,
      signal: AbortSignal.timeout(FILE_PATIENCE_MS),
      body: file,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
}

/** One request to the API; answers parsed JSON. Throws `Refused`, `Broken` or `NoAnswer`. */
export async function request<T>(
  method: 'GET' | 'POST' | 'PATCH',
  path: string,
  body?: unknown,
): Promise<T> {
  return await answered<T>(() =>
    fetch(`/api${path}`, {
      method,
      signal: AbortSignal.timeout(PATIENCE_MS),
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    }),
  )
}

async function answered<T>(ask: () => Promise<Response>): Promise<T> {
  let response: Response
  try {
    response = await ask()
  } catch {
    throw new NoAnswer()
  }
  if (response.ok) return (await response.json()) as T
  if (response.status >= 500) throw new Broken(response.status)
  const answer = (await response.json().catch(() => ({}))) as { errors?: Problem[] }
  throw new Refused(
    response.status,
    answer.errors ?? [
      { what: 'request', message: `The server refused it (${response.status}).`, nearest: [] },
    ],
  )
}
