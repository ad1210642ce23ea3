import { useMemo, useState } from 'react'
import { usePocketShape } from '../../api/queries'
import type { PocketShape, SlipShape } from '../../api/types'
import { copyText } from '../../lib/clipboard'
import { useKeys } from '../../state/keys'
import { emptyPocket, takeBackEmptying, turnSlip, usePocketKept } from '../../state/pocket'
import { usePreferences } from '../../state/preferences'
import { useColumns } from '../../state/narrow'
import { Button } from '../../ui/Button'
import { LoadState } from '../../ui/LoadState'
import { Notice } from '../../ui/Notice'
import { PressureEnthalpyCard } from './PressureEnthalpyCard'
import { SlipCard } from './SlipCard'
import { CYCLE, useFilled } from './useFilled'

/** Every small sum of the trade, live as it is typed, with no visit needed. */
export function PocketScreen() {
  const shape = usePocketShape()
  return <LoadState of={shape}>{(ready) => <Board shape={ready} />}</LoadState>
}

function Board({ shape }: { shape: PocketShape }) {
  const { units } = usePreferences()
  const { entries, emptied, out } = usePocketKept()
  const filled = useFilled(entries, units, shape.slips, out)
  const blanks = useMemo(() => new Map(shape.blanks.map((b) => [b.key, b])), [shape])
  const columns = useColumns()
  const [copied, setCopied] = useState(false)
  const shown = shape.slips.filter((slip) => out.includes(slip.key))
  const copyAll = () => {
    const texts = shown.map((slip) => filled.slips[slip.key]).filter((s) => s?.lines.length)
    void copyText(texts.map((slip) => slip?.text).join('\n\n')).then((done) => {
      setCopied(done)
      setTimeout(() => setCopied(false), 1500)
    })
  }
  useKeys([
    { key: ';', label: 'Copy the slips as text', run: copyAll },
    { key: '0', label: 'Empty every blank', run: emptyPocket },
  ])
  const fluid = entries['refrigerant']?.text ?? blanks.get('refrigerant')?.usual ?? 'R-410A'
  return (
    <div data-pocket className="mx-auto flex w-full max-w-[96rem] flex-1 flex-col px-4 md:px-6">
      <header className="flex flex-wrap items-center gap-x-2 pt-2 print:hidden">
        <h1 className="mr-auto text-[1.25rem]">Calculators</h1>
        {emptied !== null && (
          <Button weight="do" onClick={takeBackEmptying}>
            Take the numbers back
          </Button>
        )}
        <Button weight="quiet" tight onClick={emptyPocket}>
          Empty
        </Button>
        <Button weight="quiet" tight onClick={copyAll}>
          {copied ? 'Copied' : 'Copy all'}
        </Button>
        <Button weight="quiet" tight onClick={() => window.print()}>
          Print
        </Button>
      </header>
      <nav
        aria-label="Slips"
        className="flex gap-2 max-md:sticky max-md:bottom-0 max-md:z-10 max-md:order-1 max-md:-mx-4 max-md:overflow-x-auto max-md:border-t-2 max-md:border-ink max-md:bg-ground max-md:px-4 max-md:py-2 md:flex-wrap md:pt-2 print:hidden"
      >
        {[...shape.slips, { key: CYCLE, title: 'Cycle chart' }].map((slip) => (
          <button
            key={slip.key}
            type="button"
            aria-pressed={out.includes(slip.key)}
            onClick={() => turnSlip(slip.key)}
            className="min-h-11 shrink-0 rounded border border-rule-strong bg-sheet px-3 text-[0.94rem] aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-ground"
          >
            {slip.title}
          </button>
        ))}
      </nav>
      {filled.silent !== null && (
        <div className="pt-2">
          <Notice word="No answer from Nudge.">
            What you type is kept; the sums are from before. {filled.silent}
          </Notice>
        </div>
      )}
      <div className="flex flex-1 gap-4 pt-3">
        {dealt(shown, columns).map((column, i) => (
          <div key={i} className="min-w-0 flex-1">
            {column.map((slip) => (
              <SlipCard
                key={slip.key}
                shape={slip}
                blanks={blanks}
                entries={entries}
                filled={filled}
                units={units}
                fluid={fluid}
              />
            ))}
          </div>
        ))}
        {shown.length === 0 && !out.includes(CYCLE) && (
          <p className="py-6 text-soft">Every slip is in the pocket. Take one out.</p>
        )}
      </div>
      {out.includes(CYCLE) && <PressureEnthalpyCard fluid={fluid} cycle={filled.cycle} />}
    </div>
  )
}

/** Slips side by side in columns, each keeping its place while the others grow. */
function dealt(slips: SlipShape[], columns: number): SlipShape[][] {
  return Array.from({ length: Math.min(columns, Math.max(slips.length, 1)) }, (_, i) =>
    slips.filter((_slip, j) => j % columns === i),
  )
}
