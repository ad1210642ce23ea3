import { useState } from 'react'
import type { Form } from '../api/types'
import { numberIn } from '../lib/format'

export type Blank = Form['blanks'][number]
export type Filled = ReturnType<typeof useFilled>

/** What is typed and chosen in a form's blanks, and what of it can be sent. */
export function useFilled(blanks: readonly Blank[], begun: Record<string, string> = {}) {
  const [typed, setTyped] = useState(begun)
  const entries: Record<string, string | number> = {}
  for (const blank of blanks) {
    const text = typed[blank.key] ?? ''
    const value = blank.choices.length > 0 || blank.is_words ? text.trim() : numberIn(text)
    if (value !== null && value !== '') entries[blank.key] = value
  }
  const isWhole = blanks.every((blank) => !blank.is_needed || blank.key in entries)
  const set = (key: string, value: string) => setTyped({ ...typed, [key]: value })
  return { typed, entries, isWhole, set }
}
