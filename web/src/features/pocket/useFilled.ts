import { useEffect, useRef, useState } from 'react'
import { api, got } from '../../api/client'
import type { Pocket, Slip, SlipShape, Units } from '../../api/types'
import { readEntry } from '../../lib/entryText'
import type { Entry } from '../../state/pocket'

export type Filled = {
  slips: Record<string, Slip>
  /** Numbers as taken, in the units on screen. */
  taken: Record<string, number>
  problems: Record<string, string>
  cycle: Pocket['cycle'] | null
  /** Why there is no newer answer, if there is none. */
  silent: string | null
}

const NOTHING: Filled = { slips: {}, taken: {}, problems: {}, cycle: null, silent: null }
/** The chart of the cycle, among the slips that are out. */
export const CYCLE = 'cycle'
const RETRY_MS = 2_000

/** The slips worked out by the core as they are typed. Only what a change touches is asked again. */
export function useFilled(
  entries: Record<string, Entry>,
  units: Units,
  shapes: SlipShape[],
  out: string[],
): Filled {
  const [filled, setFilled] = useState<Filled>(NOTHING)
  const [again, setAgain] = useState(0)
  const asked = useRef<{ entries: Record<string, Entry>; units: Units; have: Set<string> }>({
    entries: {},
    units,
    have: new Set(),
  })
  const turn = useRef(0)

  useEffect(() => {
    const before = asked.current
    const changed = changedKeys(before.entries, entries)
    const stale = shapes.filter(
      ({ key, blanks }) =>
        out.includes(key) &&
        (before.units !== units || !before.have.has(key) || blanks.some((b) => changed.has(b))),
    )
    const changes = changed.size > 0 || before.units !== units
    const cycle = out.includes(CYCLE) && (changes || !before.have.has(CYCLE))
    if (stale.length === 0 && !changes && !cycle) return
    const mine = ++turn.current
    const slips = stale.map(({ key }) => key)
    let timer: ReturnType<typeof setTimeout> | undefined
    got(api.POST('/api/pocket', { body: { ...asBody(entries, units), slips, cycle } }))
      .then((answer) => {
        if (mine !== turn.current) return
        const now = cycle ? [...slips, CYCLE] : slips
        asked.current = {
          entries,
          units,
          have: new Set(before.units === units ? [...before.have, ...now] : now),
        }
        setFilled((old) => ({
          slips: {
            ...(before.units === units ? old.slips : {}),
            ...Object.fromEntries(answer.slips.map((slip) => [slip.key, slip])),
          },
          taken: answer.entries,
          problems: Object.fromEntries(
            Object.entries(answer.problems).map(([key, problem]) => [key, problem.message]),
          ),
          cycle: answer.cycle ?? old.cycle,
          silent: null,
        }))
      })
      .catch((error: unknown) => {
        if (mine !== turn.current) return
        const silent = error instanceof Error ? error.message : String(error)
        setFilled((old) => ({ ...old, silent }))
        timer = setTimeout(() => setAgain((n) => n + 1), RETRY_MS)
      })
    return () => clearTimeout(timer)
  }, [entries, units, shapes, out, again])
  return filled
}

function changedKeys(before: Record<string, Entry>, now: Record<string, Entry>): Set<string> {
  const keys = new Set([...Object.keys(before), ...Object.keys(now)])
  return new Set(
    [...keys].filter((k) => before[k]?.text !== now[k]?.text || before[k]?.units !== now[k]?.units),
  )
}

function asBody(entries: Record<string, Entry>, units: Units) {
  const given = Object.entries(entries).map(([key, { text }]) => [key, readEntry(text)] as const)
  const elsewhere = Object.entries(entries).filter(([, entry]) => entry.units !== units)
  return {
    units,
    entries: Object.fromEntries(given),
    written_in: Object.fromEntries(elsewhere.map(([key, entry]) => [key, entry.units])),
  }
}
