import type { Vocabulary } from '../../api/types'
import { useState } from 'react'

type Props = {
  vocabulary: Vocabulary
  text: string
  onText: (text: string) => void
  onTake: () => void
  onUndo: () => void
  onHide: () => void
}

const DIGITS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '−', '0', '.']
const USUAL = [
  'suction_pressure',
  'liquid_pressure',
  'suction_line_temp',
  'liquid_line_temp',
  'outdoor_air_temp',
  'return_air_temp',
  'return_air_wet_bulb',
  'supply_air_temp',
]

/** The on-screen pad: name, number, name, number. Big keys, one thumb. */
export function Pad({ vocabulary, text, onText, onTake, onUndo, onHide }: Props) {
  const [more, setMore] = useState(false)
  const usual = USUAL.flatMap((key) => vocabulary.points.find((point) => point.key === key) ?? [])
  const points = more ? vocabulary.points : usual
  const key =
    'flex min-h-13 items-center justify-center rounded border border-rule-strong bg-sheet px-1 active:bg-accent active:text-on-accent'
  const append = (piece: string, apart: boolean) => {
    const gap = apart && text !== '' && !text.endsWith(' ') ? ' ' : ''
    onText(text + gap + piece)
  }
  return (
    <div
      className="mt-2 grid grid-cols-1 gap-2 sm:grid-cols-[1fr_17rem]"
      aria-label="Pad"
      role="group"
    >
      <div className="grid max-h-64 grid-cols-4 gap-2 overflow-y-auto">
        {points.map((point) => (
          <button
            key={point.key}
            type="button"
            className={`${key} flex-col leading-tight`}
            onClick={() => append(`${point.short[0] ?? point.key} `, true)}
          >
            <span className="font-mono font-bold">{point.short[0]}</span>
            <span className="w-full truncate text-center text-[0.83rem] text-soft">
              {point.label}
            </span>
          </button>
        ))}
        <button type="button" className={key} onClick={() => setMore(!more)}>
          {more ? 'Fewer' : 'More'}
        </button>
        <button type="button" className={key} onClick={() => append('fix ', true)}>
          fix
        </button>
        <button type="button" className={key} onClick={onUndo}>
          Undo
        </button>
        <button type="button" className={key} onClick={onHide}>
          Hide
        </button>
      </div>
      <div className="grid grid-cols-4 gap-2 text-[1.3rem]">
        <div className="col-span-3 grid grid-cols-3 gap-2">
          {DIGITS.map((digit) => (
            <button
              key={digit}
              type="button"
              className={key}
              onClick={() => append(digit === '−' ? '-' : digit, false)}
            >
              {digit}
            </button>
          ))}
        </div>
        <div className="grid grid-rows-[1fr_1fr_2fr] gap-2">
          <button
            type="button"
            className={key}
            aria-label="Delete the last character"
            onClick={() => onText(text.trimEnd().slice(0, -1))}
          >
            ⌫
          </button>
          <button type="button" className={`${key} text-[0.95rem]`} onClick={() => onText('')}>
            Clear
          </button>
          <button
            type="button"
            className={`${key} bg-accent font-bold text-on-accent`}
            onClick={onTake}
          >
            Take
          </button>
        </div>
      </div>
    </div>
  )
}
