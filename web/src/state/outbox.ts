import { Broken, NoAnswer, Refused, sendKept } from '../api/client'
import { queryClient, visitKey } from '../api/queries'
import type { Problem, Standing, System, Units } from '../api/types'
import {
  filled,
  type Patched,
  type PatchedBody,
  type Posted,
  type PostedBody,
  type Writing,
  type WritingBody,
} from '../api/writes'
import { newId } from '../lib/ids'
import { told } from './toasts'
import {
  dropRefused,
  dropWaiting,
  keepRefused,
  keepWaiting,
  nextWaiting,
  outboxNow,
  takeOverOld,
  type Message,
} from './waiting'

export { outboxNow, useOutbox, type Message } from './waiting'

/**
 * Everything written goes through here. It is kept in the browser first, then sent in order;
 * if the server does not answer it waits and is sent again, under the same id, so it counts
 * once. What the server refuses is kept aside with the reason, and shown.
 */
const RETRY_MS = 2_000
/** What is only on screen while somebody has it open, and then follows every write. */
const OPENED = ['ways', 'records', 'workings', 'changes', 'settings']
const BROKEN_TRIES = 4
const brokenTries = new Map<string, number>()
const sentFromHere = new Set<string>()
let sending = false
let asked = 0
let silent = false
const silenceListeners = new Set<() => void>()

/** Whether a write is of this page: its answer brings the visit, nothing has to be asked again. */
export const isSentFromHere = (id: string) => sentFromHere.has(id)
export const isSilent = () => silent
export const onSilence = (listener: () => void) => {
  silenceListeners.add(listener)
  return () => silenceListeners.delete(listener)
}

/** Keep a write and start sending it. It is safe as soon as this returns. */
export function post<P extends Posted>(
  path: P,
  body: PostedBody<P> & object,
  { units, id = newId(), ...to }: Sent,
): void {
  keep({ id, method: 'POST', path: filled(path, to.blanks ?? {}), body, units, ...at(to) })
}

/** The same for a change of something that is there. */
export function patch<P extends Patched>(
  path: P,
  body: PatchedBody<P> & object,
  { units, id = newId(), ...to }: Sent,
): void {
  keep({ id, method: 'PATCH', path: filled(path, to.blanks ?? {}), body, units, ...at(to) })
}

/** Write something on a visit: it gets an id of its own, in the message and in its body. */
export function writeOn<W extends Writing>(
  visitId: string,
  what: W,
  body: WritingBody<W>,
  units: Units,
): void {
  const id = newId()
  const path = `/visits/${encodeURIComponent(visitId)}/${what}`
  keep({ id, method: 'POST', path, body: { id, ...body }, units, visitId })
}

/** Change a visit itself: start it, close it, open it again. */
export function changeVisit(
  visitId: string,
  body: PatchedBody<'/api/visits/{visit_id}'>,
  units: Units,
): void {
  patch('/api/visits/{visit_id}', body, { units, visitId, blanks: { visit_id: visitId } })
}

type Sent = { units: Units; id?: string; visitId?: string; blanks?: Record<string, string> }

const at = ({ visitId }: { visitId?: string }) => (visitId === undefined ? {} : { visitId })

function keep(message: Message): void {
  keepWaiting(message)
  told(message)
  void flush()
}

/** Take a refused message off the pile: its text is back where it was typed. */
export function dismiss(id: string): void {
  dropRefused(id)
}

/** Send what waits, in order; one tab at a time where the browser can see to that. */
export async function flush(): Promise<void> {
  asked += 1
  if (sending) return
  sending = true
  try {
    for (let done = 0; done < asked;) {
      done = asked
      if ('locks' in navigator) await navigator.locks.request('nudge.outbox', () => sendAll(true))
      else await sendAll(false)
    }
  } finally {
    sending = false
  }
}

async function sendAll(isAlone: boolean): Promise<void> {
  for (let next = nextWaiting(isAlone); next; next = nextWaiting(isAlone)) {
    const problems = await send(next)
    if (problems === 'no answer') return
    if (problems) keepRefused({ message: next, problems })
    dropWaiting(next.id)
  }
  // What another tab keeps is left to it for a while, then sent from here: it counts once.
  if (outboxNow().waiting.length > 0) setTimeout(() => void flush(), RETRY_MS)
}

async function send(message: Message): Promise<Problem[] | 'no answer' | null> {
  try {
    const path = `${message.path}?units=${message.units}`
    sentFromHere.add(message.id)
    const answer = await sendKept(message.method, path, message.body)
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
  const moved = /doses|dose-corrections|events|cylinders|ledger/.test(message.path)
  for (const name of [...(moved ? ['cylinders', 'ledger'] : []), ...OPENED]) {
    void queryClient.invalidateQueries({ queryKey: [name] })
  }
  if (message.visitId !== undefined) {
    const visit = answer as Standing
    const queryKey = visitKey(visit.id, message.units)
    queryClient.setQueryData(queryKey, visit)
    // What was asked before this was written would put the older visit back: ask again.
    if (queryClient.isFetching({ queryKey }) > 0) void queryClient.invalidateQueries({ queryKey })
    // Written in one unit system and shown in another: that one asks anew.
    void queryClient.invalidateQueries({
      queryKey: ['visit', visit.id],
      predicate: (query) => query.queryKey[2] !== message.units,
    })
    void queryClient.invalidateQueries({ queryKey: ['tests', visit.id] })
    void queryClient.invalidateQueries({ queryKey: ['today'] })
    void queryClient.invalidateQueries({ queryKey: ['system', visit.system.id] })
    return
  }
  void queryClient.invalidateQueries({ queryKey: ['sites'] })
  void queryClient.invalidateQueries({ queryKey: ['system', (answer as System).id] })
  for (const name of ['visit', 'charts', 'weigh-in', 'methods', 'today', 'workshop', 'register']) {
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
  takeOverOld()
  window.addEventListener('online', () => void flush())
  void flush()
}
