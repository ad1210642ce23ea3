import type { ReactNode } from 'react'

type Props = { word: string; children: ReactNode }

/** A caution beside the step it belongs to: a bar and a word, never colour alone. */
export function Care({ word, children }: Props) {
  return (
    <p className="mt-1 border-l-4 border-alarm pl-2 text-[0.94rem] leading-snug">
      <strong>{word}</strong> {children}
    </p>
  )
}
