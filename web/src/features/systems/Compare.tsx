import { useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useCompare } from '../../api/queries'
import type { Compare as Compared, DrawnCompare, SystemPage } from '../../api/types'
import { pathThrough } from '../../drawing/frame'
import { LetterText } from '../../drawing/LetterText'
import { shortTime } from '../../lib/format'
import { serverDate } from '../../state/clock'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'

type Line = SystemPage['visits'][number]

/** Two visits of a system laid over each other: the earlier dashed, what moved beside it. */
export function Compare({ systemId, visits }: { systemId: string; visits: Line[] }) {
  const read = visits.filter((one) => one.headline && one.opened_at)
  const [chosen, choose] = useState<[string, string] | null>(null)
  const asked = useSearchParams()[0].get('over')
  const section = useRef<HTMLElement>(null)
  useEffect(() => {
    if (asked) section.current?.scrollIntoView()
  }, [asked])
  const [now, then] = chosen ?? pair(read, asked)
  if (!now || !then) return null
  const pick = (label: string, value: string, set: (id: string) => void) => (
    <label className="flex min-w-0 flex-1 flex-col gap-1">
      <span className="text-soft">{label}</span>
      <select
        value={value}
        onChange={(event) => set(event.target.value)}
        className="min-h-11 min-w-0 border border-rule-strong bg-sheet px-2"
      >
        {read.map((one) => (
          <option key={one.id} value={one.id}>
            {one.opened_at ? shortTime(one.opened_at, serverDate()) : ''} {one.complaint}
          </option>
        ))}
      </select>
    </label>
  )
  return (
    <section aria-label="Two visits" ref={section} className="scroll-mt-16">
      <Heading>Two visits, one over the other</Heading>
      <div className="flex flex-wrap gap-3 py-3">
        {pick('One', then, (id) => choose([now, id]))}
        {pick('Other', now, (id) => choose([id, then]))}
      </div>
      {now === then ? (
        <p className="text-soft">Choose two different visits.</p>
      ) : (
        <Both key={`${now} ${then}`} {...{ systemId, now, then }} />
      )}
    </section>
  )
}

/** The visit asked for, else the last; and the one before it in the same mode, if there is one. */
function pair(read: Line[], asked: string | null): (string | undefined)[] {
  const at = Math.max(
    read.findIndex((one) => one.id === asked),
    0,
  )
  const before = read.slice(at + 1)
  const alike = before.find((one) => one.mode === read[at]?.mode)
  return [read[at]?.id, (alike ?? before[0])?.id]
}

function Both(props: { systemId: string; now: string; then: string }) {
  const found = useCompare(props.systemId, props.then, props.now)
  return (
    <LoadState of={found}>
      {(both) =>
        both ? <Shown of={both} /> : <p className="text-soft">Nothing was judged on one of them.</p>
      }
    </LoadState>
  )
}

function Shown({ of }: { of: Compared }) {
  // The column is half a screen at most: the hand's frame keeps its letters readable.
  const drawn = of.drawn.find((one) => one.frame === 'hand')
  const when = (at: string | null) => (at ? shortTime(at, serverDate()) : '')
  return (
    <>
      {of.unlike.map((said) => (
        <p key={said} className="border-l-4 border-rule-strong pl-3">
          {said}
        </p>
      ))}
      {drawn && <Picture drawn={drawn} />}
      <table className="w-full border-collapse" data-compared={of.rows.length}>
        <thead>
          <tr className="border-b border-rule-strong text-left text-soft">
            <th className="py-1 font-normal">
              <span className="sr-only">Quantity</span>
            </th>
            <th className="py-1 text-right font-normal">{when(of.then.at)} ┄</th>
            <th className="py-1 text-right font-normal">{when(of.now.at)} ━</th>
            <th className="py-1 text-right font-normal">moved</th>
          </tr>
        </thead>
        <tbody>
          {of.rows.map((row) => (
            <tr key={row.key} className="border-b border-rule" data-row={row.key}>
              <th scope="row" className="py-1 text-left font-normal">
                {row.label} <span className="text-soft">{row.unit}</span>
              </th>
              <td className="py-1 pl-2 text-right font-mono">{row.then}</td>
              <td className="py-1 pl-2 text-right font-mono">{row.now}</td>
              <td className="py-1 pl-2 text-right font-mono font-bold">{row.moved}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

const WIDE = { then: 2.5, now: 4.5, level_then: 1.2, level_now: 1.6, tick: 1, base: 1.5, part: 2 }
const DASH = { then: '7 5', level_then: '3 6', level_now: '9 5' }

function Picture({ drawn }: { drawn: DrawnCompare }) {
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      role="img"
      aria-label={drawn.words}
      className="w-full py-2"
    >
      {drawn.strokes.map(({ role, side, points }, n) => (
        <path
          key={n}
          d={pathThrough(points)}
          data-role={role}
          fill="none"
          stroke={side ? `var(--${side})` : role === 'tick' ? 'var(--rule)' : 'var(--rule-strong)'}
          strokeWidth={WIDE[role]}
          strokeDasharray={role in DASH ? DASH[role as keyof typeof DASH] : undefined}
          strokeLinejoin="round"
        />
      ))}
      {drawn.letters.map((one) => (
        <LetterText key={`${one.role}${one.key}${one.text}`} of={one} isSoft />
      ))}
    </svg>
  )
}
