import { useState } from 'react'

export type Asking = {
  /** What came of it, in words; what went wrong takes its place. */
  said: string
  say: (words: string) => void
  /** What it is busy with, in words; empty while it is not. */
  busy: string
  ask: (work: () => Promise<unknown>, words?: string) => Promise<void>
}

/** Something a screen asks of the server: busy until it is done, and what went wrong, in words. */
export function useAsking(): Asking {
  const [said, say] = useState('')
  const [busy, setBusy] = useState('')
  const ask = async (work: () => Promise<unknown>, words = 'Asking…') => {
    say('')
    setBusy(words)
    try {
      await work()
    } catch (error) {
      say(error instanceof Error ? error.message : String(error))
    }
    setBusy('')
  }
  return { said, say, busy, ask }
}
