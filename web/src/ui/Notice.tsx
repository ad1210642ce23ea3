import type { ReactNode } from 'react'

/** A boxed sentence that must not be missed. The mark and the word carry it, not the colour. */
export function Notice({ word, children }: { word: string; children: ReactNode }) {
  return (
    <div
      role="alert"
      className="flex items-start gap-3 rounded border-2 border-alarm bg-alarm-ground px-4 py-2"
    >
      <svg viewBox="0 0 24 24" aria-hidden className="mt-0.5 h-6 w-6 shrink-0 text-alarm">
        <path
          d="M12 3 22 21H2z M12 10v5 M12 17.6v.6"
          fill="none"
          stroke="currentColor"
          strokeWidth="2.4"
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      </svg>
      <div className="min-w-0">
        <strong className="mr-2">{word}</strong>
        {children}
      </div>
    </div>
  )
}
