import { Kept, useKept } from './kept'

/** What has been typed and not yet taken, by field. Kept through reloads and crashes. */
const drafts = new Kept<Record<string, string>>('nudge.drafts', {})

export function useDraft(name: string): [string | undefined, (text: string | undefined) => void] {
  return [useKept(drafts)[name], (text) => setDraft(name, text)]
}

export function setDraft(name: string, text: string | undefined): void {
  const others = Object.entries(drafts.get()).filter(([key]) => key !== name)
  drafts.set(
    Object.fromEntries(text === undefined || text === '' ? others : [...others, [name, text]]),
  )
}

export const lineDraft = (visitId: string) => `line:${visitId}`
