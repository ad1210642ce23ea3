import { useSyncExternalStore } from 'react'
import type { Problem, Units } from '../api/types'
import { newId } from '../lib/ids'
import { KeptMap } from './keptMap'

/** A write as it is kept until the server has it. */
export type Message = {
  id: string
  method: 'POST' | 'PATCH'
  path: string
  body: object
  units: Units
  visitId?: string
}
export type RefusedMessage = { message: Message; problems: Problem[] }
export type Outbox = { waiting: Message[]; refused: RefusedMessage[] }
type Waiting = { message: Message; order: number; tab: string; keptAt: number }

const THIS_TAB = newId()
const waiting = new KeptMap<Waiting>('nudge.out.')
const refused = new KeptMap<RefusedMessage>('nudge.refused.')

/** Keep a write behind all that wait already, in whichever tab and whatever the clock says. */
export function keepWaiting(message: Message): void {
  const last = Math.max(0, ...[...waiting.get().values()].map((one) => one.order))
  const keptAt = Date.now()
  waiting.set(message.id, { message, order: Math.max(last + 1, keptAt), tab: THIS_TAB, keptAt })
}

export function dropWaiting(id: string): void {
  waiting.delete(id)
}

export function keepRefused(one: RefusedMessage): void {
  refused.set(one.message.id, one)
}

export function dropRefused(id: string): void {
  refused.delete(id)
}

/** How long another tab is given to send its own, where the browser has no locks [ms]. */
const ORPHANED_MS = 3_000

/** What is to be sent next; without a lock only what is of this tab, or was left behind. */
export function nextWaiting(isAlone: boolean): Message | undefined {
  const mine = (one: Waiting) =>
    isAlone || one.tab === THIS_TAB || Date.now() - one.keptAt > ORPHANED_MS
  return inOrder(waiting.get()).find(mine)?.message
}

const inOrder = (of: ReadonlyMap<string, Waiting>) =>
  [...of.values()].sort((one, other) => one.order - other.order)

let shown: Outbox = { waiting: [], refused: [] }
let shownOf: [ReadonlyMap<string, Waiting>, ReadonlyMap<string, RefusedMessage>] | null = null

export function outboxNow(): Outbox {
  const of = [waiting.get(), refused.get()] as const
  if (shownOf?.[0] !== of[0] || shownOf[1] !== of[1]) {
    shown = { waiting: inOrder(of[0]).map((one) => one.message), refused: [...of[1].values()] }
    shownOf = [of[0], of[1]]
  }
  return shown
}

function subscribe(listener: () => void): () => void {
  const stops = [waiting.subscribe(listener), refused.subscribe(listener)]
  return () => stops.forEach((stop) => stop())
}

/** What waits to be sent and what was refused, in all tabs. */
export const useOutbox = () => useSyncExternalStore(subscribe, outboxNow)

/** What a page of before kept under one key is taken over. */
export function takeOverOld(): void {
  try {
    const old = JSON.parse(localStorage.getItem('nudge.outbox') ?? 'null') as Outbox | null
    if (old === null) return
    old.waiting.forEach(keepWaiting)
    old.refused.forEach(keepRefused)
    localStorage.removeItem('nudge.outbox')
  } catch {
    // Nothing readable was kept.
  }
}
