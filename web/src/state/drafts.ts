import { useSyncExternalStore } from 'react'
import { KeptMap } from './keptMap'

/** What has been typed and not yet taken, by field. Kept through reloads and crashes. */
const drafts = new KeptMap<string>('nudge.draft.')

export function useDraft(name: string): [string | undefined, (text: string | undefined) => void] {
  const kept = useSyncExternalStore(drafts.subscribe, () => drafts.get().get(name))
  return [kept, (text) => setDraft(name, text)]
}

export function setDraft(name: string, text: string | undefined): void {
  if (text === undefined || text === '') drafts.delete(name)
  else drafts.set(name, text)
}

export const lineDraft = (visitId: string) => `line:${visitId}`
