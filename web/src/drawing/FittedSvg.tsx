import type { ReactNode } from 'react'
import { pathThrough, type Fitted, type Framed } from './frame'

type Drawn = Framed & { words: string }

/** A layout on its place in its space, said in words to who cannot see it. */
export function FittedSvg({ fit, children }: { fit: Fitted<Drawn>; children: ReactNode }) {
  const { drawn, scale, left, top } = fit
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      role="img"
      aria-label={drawn.words}
      className="absolute select-none"
      style={{ left, top, width: drawn.width * scale, height: drawn.height * scale }}
    >
      {children}
    </svg>
  )
}

export type Pen = { hue: string; wide: number; dash?: string }
type Stroke<Role> = { role: Role; points: readonly (readonly [number, number])[] }

/** The strokes of a layout, each with the pen of its role. */
export function Strokes<Role extends string>(props: {
  strokes: readonly Stroke<Role>[]
  pens: Record<Role, Pen>
}) {
  return props.strokes.map(({ role, points }, n) => (
    <path
      key={n}
      d={pathThrough(points)}
      fill="none"
      stroke={props.pens[role].hue}
      strokeWidth={props.pens[role].wide}
      strokeDasharray={props.pens[role].dash}
    />
  ))
}
