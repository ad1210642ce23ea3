import type { ButtonHTMLAttributes } from 'react'

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  weight?: 'do' | 'plain' | 'quiet'
  keyHint?: string
  /** Less room left and right: one of several in a narrow row. */
  tight?: boolean
}

const WEIGHTS = {
  do: 'bg-accent text-on-accent border-accent font-bold',
  plain: 'border-rule-strong bg-sheet',
  quiet: 'border-transparent underline decoration-rule-strong underline-offset-4',
}

/** A button big enough for a glove. `do` is the one thing to do here. */
export function Button({
  weight = 'plain',
  keyHint,
  tight = false,
  className = '',
  children,
  ...rest
}: Props) {
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-11 min-w-11 items-center justify-center gap-2 rounded border disabled:opacity-50 ${tight ? 'px-1.5' : 'px-4'} ${WEIGHTS[weight]} ${className}`}
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
      className="hidden rounded border border-current px-1 font-mono text-[0.83rem] leading-4 opacity-75 md:inline-block"
    >
      {children}
    </kbd>
  )
}
