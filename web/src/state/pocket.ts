import type { Units } from '../api/types'
import { Kept, useKept } from './kept'

/** What was filled in: as typed, in the units it was typed in. A pick has no units that matter. */
export type Entry = { text: string; units: Units }

type Pocket = {
  entries: Record<string, Entry>
  /** What was emptied last, so that emptying can be taken back. */
  emptied: Record<string, Entry> | null
  /** The slips that are out of the pocket, in the order they were taken out. */
  out: string[]
}

const FIRST_OUT = ['saturation', 'circuit', 'split']

const pocket = new Kept<Pocket>('nudge.pocket', { entries: {}, emptied: null, out: FIRST_OUT })

export const usePocketKept = () => useKept(pocket)

export function fillBlank(key: string, text: string, units: Units): void {
  const kept = pocket.get()
  const others = Object.entries(kept.entries).filter(([other]) => other !== key)
  const entries = Object.fromEntries(text === '' ? others : [...others, [key, { text, units }]])
  pocket.set({ ...kept, entries, emptied: null })
}

/** Take a slip out of the pocket, or put it back. */
export function turnSlip(key: string): void {
  const kept = pocket.get()
  const out = kept.out.includes(key) ? kept.out.filter((one) => one !== key) : [...kept.out, key]
  pocket.set({ ...kept, out })
}

export function emptyPocket(): void {
  const kept = pocket.get()
  if (Object.keys(kept.entries).length === 0) return
  pocket.set({ ...kept, entries: {}, emptied: kept.entries })
}

export function takeBackEmptying(): void {
  const kept = pocket.get()
  if (kept.emptied !== null) pocket.set({ ...kept, entries: kept.emptied, emptied: null })
}
