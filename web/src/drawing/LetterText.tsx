import type { DrawnLoop } from '../api/types'

type Letters = Pick<DrawnLoop['letters'][number], 'x' | 'y' | 'anchor' | 'size' | 'text'> & {
  is_bold: boolean
}

/** Words of a drawing where they were laid out, with the ground round them. */
export function LetterText({ of, isSoft }: { of: Letters; isSoft: boolean }) {
  return (
    <text
      x={of.x}
      y={of.y}
      textAnchor={of.anchor}
      fontSize={of.size}
      fontWeight={of.is_bold ? 700 : 400}
      paintOrder="stroke"
      stroke="var(--ground)"
      strokeWidth="4"
      strokeLinejoin="round"
      className={isSoft ? 'fill-soft' : 'fill-ink'}
    >
      {of.text}
    </text>
  )
}
