import { useSyncExternalStore } from 'react'
import type { Units } from '../api/types'
import { Kept } from './kept'
import type { Message } from './waiting'

/** What this device wrote on visits, newest last: each can be taken back by itself. */
export type Done = { id: string; visitId: string; what: string; said: string; body: object }
export type Toast = Done & { until: number }

const SHOWN_MS = 7_000
const REMEMBERED = 60
const mine = new Kept<Done[]>('nudge.mine', [])
let toast: Toast | null = null
const listeners = new Set<() => void>()

/** Say what was written, by name. What takes something back, or says nothing, is not told of. */
export function told(message: Message): void {
  if (message.visitId === undefined) return
  const what = whatOf(message)
  const said = saidOf(what, message.body, message.units)
  if (said === '') return
  const done = { id: message.id, visitId: message.visitId, what, said, body: message.body }
  if (isUndoable(done)) mine.set([...mine.get(), done].slice(-REMEMBERED))
  show({ ...done, until: Date.now() + SHOWN_MS })
}

const whatOf = (message: Message) =>
  message.path.split('/')[3] ?? (message.method === 'PATCH' ? 'change' : '')

function show(next: Toast | null): void {
  toast = next
  for (const listener of listeners) listener()
  if (next !== null) setTimeout(() => toast?.id === next.id && show(null), SHOWN_MS)
}

export const useToast = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => toast,
  )

export const hideToast = () => show(null)

/** The last thing this device wrote on a visit that can still be taken back. */
export function useLastDone(visitId: string): Done | undefined {
  return useSyncExternalStore(mine.subscribe, () =>
    mine.get().findLast((one) => one.visitId === visitId),
  )
}

/** It was taken back: it is not offered again. */
export function forget(id: string): void {
  mine.set(mine.get().filter((one) => one.id !== id))
  if (toast?.id === id) show(null)
}

/** How each kind of write is taken back; what is not here stands until it is corrected. */
export const UNDONE_BY: Record<
  string,
  'withdrawals' | 'dose-corrections' | 'ticks' | 'open again'
> = {
  callouts: 'withdrawals',
  corrections: 'withdrawals',
  kept: 'withdrawals',
  events: 'withdrawals',
  circuit: 'withdrawals',
  observations: 'withdrawals',
  doses: 'dose-corrections',
  ticks: 'ticks',
  closings: 'open again',
}

export const isUndoable = (done: Done) => UNDONE_BY[done.what] !== undefined

/** A write in a few words. */
export function saidOf(what: string, body: object, units: Units): string {
  const of = body as Record<string, string | number | boolean | null | undefined>
  const unit = units === 'ip' ? 'oz' : 'g'
  const worded = (key: string) => sentence(String(of[key] ?? ''))
  switch (what) {
    case 'callouts':
      return `Taken: ${String(of['text'])}`
    case 'corrections':
      return `Corrected to ${String(of['text'])}`
    case 'kept':
      return 'Readings used'
    case 'events':
      return worded('kind')
    case 'circuit':
      return `Circuit: ${worded('to').toLowerCase()}`
    case 'settings':
      return of['value'] === ''
        ? `Setting ${String(of['name'])} taken off`
        : `Setting ${String(of['name'])} kept`
    case 'carried-settings':
      return 'Settings taken over'
    case 'observations':
      return of['seen'] === true ? worded('key') : `Not so: ${worded('key').toLowerCase()}`
    case 'doses':
      return `${String(of['amount'])} ${unit} ${of['removes'] === true ? 'taken out' : 'given'}, written down`
    case 'dose-corrections':
      return of['amount'] === 0
        ? 'Dose taken back'
        : `Dose corrected to ${String(of['amount'])} ${unit}`
    case 'withdrawals':
      return 'Taken back'
    case 'closings':
      return 'Visit closed'
    case 'ticks':
      return of['state'] === '' ? 'Step open again' : `Step ${String(of['state'])}`
    case 'placements':
      return of['point'] === '' ? 'Instrument taken off' : 'Instrument placed'
    case 'swaps':
      return 'The two exchanged'
    case 'zeros':
      return 'Zeroed'
    case 'ignored':
      return of['ignored'] === true ? 'Instrument ignored' : 'Instrument counts again'
    case 'baselines':
      return 'Kept as the baseline'
    case 'notes':
      return 'Note written'
    case 'slips':
      return 'Sent into the visit'
    default:
      return ''
  }
}

const sentence = (key: string) => {
  const words = key.replaceAll('_', ' ')
  return words.charAt(0).toUpperCase() + words.slice(1)
}
