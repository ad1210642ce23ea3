import type { ButtonHTMLAttributes } from 'react'

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  weight?: 'do' | 'plain' | 'quiet'
  keyHint?: string
}

const WEIGHTS = {
  do: 'bg-accent text-on-accent border-accent font-bold',
  plain: 'border-rule-strong bg-sheet',
  quiet: 'border-transparent underline decoration-rule-strong underline-offset-4',
}

/** A button big enough for a glove. `do` is the one thing to do here. */
export function Button({ weight = 'plain', keyHint, className = '', children, ...rest }: Props) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-11 min-w-11 items-center justify-center gap-2 rounded border px-4 disabled:opacity-50 ${WEIGHTS[weight]} ${className}`}
    >
      {children}
      {keyHint && <KeyCap>{keyHint}</KeyCap>}
    </button>
  )
}

export function KeyCap({ children }: { children: string }) {
  return (
    <kbd
      aria-hidden
      className="hidden rounded border border-current px-1 font-mono text-[0.72rem] leading-4 opacity-75 md:inline-block"
    >
      {children}
    </kbd>
  )
}
