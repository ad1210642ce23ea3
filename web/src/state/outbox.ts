import { Broken, NoAnswer, Refused, request } from '../api/client'
import { queryClient, visitKey } from '../api/queries'
import type { Problem, System, Units, Visit } from '../api/types'
import { Kept, useKept } from './kept'
import { newId } from '../lib/ids'

/**
 * Everything written goes through here. It is kept in the browser first, then sent in order;
 * if the server does not answer it waits and is sent again, under the same id, so it counts
 * once. What the server refuses is kept aside with the reason, and shown.
 */
export type Message = {
  id: string
  method: 'POST' | 'PATCH'
  path: string
  body: Record<string, unknown>
  units: Units
  visitId?: string
}

export type RefusedMessage = { message: Message; problems: Problem[] }

type Outbox = { waiting: Message[]; refused: RefusedMessage[] }

const RETRY_MS = 2_000
const outbox = new Kept<Outbox>('nudge.outbox', { waiting: [], refused: [] })
const BROKEN_TRIES = 4
const brokenTries = new Map<string, number>()
let sending = false
let silent = false
const silenceListeners = new Set<() => void>()

export const useOutbox = () => useKept(outbox)
export const isSilent = () => silent
export const onSilence = (listener: () => void) => {
  silenceListeners.add(listener)
  return () => silenceListeners.delete(listener)
}

/** Keep a message and start sending. It is safe as soon as this returns. */
export function post(message: Omit<Message, 'id'> & { id?: string }): string {
  const id = message.id ?? newId()
  outbox.set({ ...outbox.get(), waiting: [...outbox.get().waiting, { ...message, id }] })
  void flush()
  return id
}

type Writing =
  | 'callouts'
  | 'corrections'
  | 'withdrawals'
  | 'observations'
  | 'events'
  | 'slips'
  | 'placements'
  | 'swaps'
  | 'zeros'
  | 'ignored'
  | 'kept'
  | 'passed-gates'
  | 'doses'
  | 'dose-corrections'
  | 'connections'
  | 'kinds'
  | 'ticks'
  | 'checks'
  | 'notes'
  | 'closings'
  | 'baselines'
  | 'intended-changes'
  | 'deferred'

/** Write something on a visit: it gets an id of its own, in the message and in its body. */
export function writeOn(
  visitId: string,
  what: Writing,
  body: Record<string, unknown>,
  units: Units,
): void {
  const id = newId()
  const path = `/visits/${visitId}/${what}`
  post({ id, method: 'POST', path, body: { id, ...body }, units, visitId })
}

/** Change a visit itself: start it, close it, open it again. */
export function changeVisit(visitId: string, body: Record<string, unknown>, units: Units): void {
  post({ method: 'PATCH', path: `/visits/${visitId}`, body, units, visitId })
}

/** Take a refused message off the pile: its text is back where it was typed. */
export function dismiss(id: string): void {
  const { waiting, refused } = outbox.get()
  outbox.set({ waiting, refused: refused.filter((one) => one.message.id !== id) })
}

export async function flush(): Promise<void> {
  if (sending) return
  sending = true
  try {
    for (let next = outbox.get().waiting[0]; next; next = outbox.get().waiting[0]) {
      const problems = await send(next)
      if (problems === 'no answer') return
      const { waiting, refused } = outbox.get()
      outbox.set({
        waiting: waiting.filter((message) => message.id !== next.id),
        refused: problems ? [...refused, { message: next, problems }] : refused,
      })
    }
  } finally {
    sending = false
  }
}

async function send(message: Message): Promise<Problem[] | 'no answer' | null> {
  try {
    const answer = await request<unknown>(
      message.method,
      `${message.path}?units=${message.units}`,
      message.body,
    )
    setSilent(false)
    remember(message, answer)
    return null
  } catch (error) {
    if (error instanceof NoAnswer || (error instanceof Broken && mayTryAgain(message.id))) {
      setSilent(true)
      setTimeout(() => void flush(), RETRY_MS)
      return 'no answer'
    }
    setSilent(false)
    if (error instanceof Refused) return error.problems
    const reason = error instanceof Error ? error.message : String(error)
    return [{ what: 'request', message: reason, nearest: [] }]
  }
}

/** A message the server breaks on is tried a few times, then set aside so the rest can go. */
function mayTryAgain(id: string): boolean {
  const tries = (brokenTries.get(id) ?? 0) + 1
  brokenTries.set(id, tries)
  return tries < BROKEN_TRIES
}

function remember(message: Message, answer: unknown): void {
  for (const name of ['cylinders', 'ledger', 'nudge', 'ways', 'order', 'records']) {
    void queryClient.invalidateQueries({ queryKey: [name] })
  }
  if (message.visitId !== undefined) {
    const visit = answer as Visit
    queryClient.setQueryData(visitKey(visit.id, message.units), visit)
    void queryClient.invalidateQueries({ queryKey: ['today'] })
    void queryClient.invalidateQueries({ queryKey: ['system', visit.system.id] })
    return
  }
  void queryClient.invalidateQueries({ queryKey: ['sites'] })
  void queryClient.invalidateQueries({ queryKey: ['system', (answer as System).id] })
  for (const name of ['visit', 'charts', 'weigh-in', 'methods', 'today']) {
    void queryClient.invalidateQueries({ queryKey: [name] })
  }
}

function setSilent(value: boolean): void {
  if (silent === value) return
  silent = value
  for (const listener of silenceListeners) listener()
}

/** Send what an earlier page left behind, and try again whenever the network comes back. */
export function startOutbox(): void {
  window.addEventListener('online', () => void flush())
  void flush()
}
