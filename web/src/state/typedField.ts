import { useEffect, useRef, useState } from 'react'
import { useDraft } from './drafts'
import { dismiss, useOutbox, type Message } from './outbox'

export type TypedField = {
  text: string
  problem: string | null
  type: (text: string) => void
  settle: () => void
}

type Options<T> = {
  /** Where the unsent text is kept. */
  draft: string
  /** What the server has, as text. */
  stored: string
  /** Whether a message in the outbox is about this field. */
  about: (message: Message) => boolean
  /** The text as a value to send, or an Error that says why it is none. */
  read: (text: string) => T | Error
  send: (value: T) => void
}

const PAUSE_MS = 500

/** A field without a Save: sent when typing pauses, its text kept until the server has it. */
export function useTypedField<T>({
  draft: name,
  stored,
  about,
  read,
  send,
}: Options<T>): TypedField {
  const [draft, setDraft] = useDraft(name)
  const { waiting, refused } = useOutbox()
  const [unreadable, setUnreadable] = useState<string | null>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const onItsWay = waiting.some(about)
  const refusals = refused.filter((one) => about(one.message))
  const refusal = refusals.at(-1)

  useEffect(() => {
    if (draft === stored && !onItsWay && !refusal) setDraft(undefined)
  }, [draft, stored, onItsWay, refusal, setDraft])

  const settle = (text: string) => {
    clearTimeout(timer.current)
    if (text === stored) return
    const value = read(text)
    if (value instanceof Error) {
      setUnreadable(value.message)
      return
    }
    for (const old of refusals) dismiss(old.message.id)
    send(value)
  }
  return {
    text: draft ?? stored,
    problem: unreadable ?? refusal?.problems[0]?.message ?? null,
    type: (text) => {
      setUnreadable(null)
      setDraft(text)
      clearTimeout(timer.current)
      timer.current = setTimeout(() => settle(text), PAUSE_MS)
    },
    settle: () => draft !== undefined && settle(draft),
  }
}
