import { useCallback, useEffect, useRef, useState } from 'react'
import { api, got } from '../../api/client'
import type { Heard, Units, Visit, Vocabulary } from '../../api/types'
import { formatNumber } from '../../lib/format'
import { lineDraft, setDraft, useDraft } from '../../state/drafts'
import { useKeys } from '../../state/keys'
import { dismiss, useOutbox, writeOn } from '../../state/outbox'
import { useLastDone } from '../../state/toasts'
import { undo } from '../../state/undo'
import { setPreference, togglePad, UNIT_WORDS, usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Pad } from './Pad'
import { serverNow } from '../../state/clock'

type Props = {
  visit: Visit
  vocabulary: Vocabulary
  units: Units
  /** Whether somebody is typing here now. */
  onTypes: (types: boolean) => void
}

const EXAMPLE = {
  ip: 'suct 118 liq 341 sl 52 ll 96 oa 88',
  si: 'suct 814 liq 2351 sl 11 ll 36 oa 31',
  si_bar: 'suct 8.1 liq 23.5 sl 11 ll 36 oa 31',
}
const IN_HEATING = {
  ip: 'ra 69 sa 92 oa 38 cfm 1150 suct 97 ts 34',
  si: 'ra 21 sa 33 oa 3 suct 670 ts 1',
  si_bar: 'ra 21 sa 33 oa 3 suct 6.7 ts 1',
}

const IN_A_ROOM = {
  ip: 'box -5 suct 20 eo -10 sl 5 liq 227 oa 72',
  si: 'box -20 suct 135 eo -23 sl -15 liq 1565 oa 22',
  si_bar: 'box -20 suct 1.4 eo -23 sl -15 liq 15.6 oa 22',
}

const ON_A_VEHICLE = {
  ip: 'cil 150 col 108 cea 92 vent 55 eo 58 wb 68',
  si: 'cil 66 col 42 cea 33 vent 13 eo 14 wb 20',
  si_bar: 'cil 66 col 42 cea 33 vent 13 eo 14 wb 20',
}

/** What is read first on such plant. */
const exampleFor = (visit: Visit) => {
  if (visit.heat) return IN_HEATING
  if (visit.room) return IN_A_ROOM
  return visit.vehicle ? ON_A_VEHICLE : EXAMPLE
}

/** The call-out line: readings in any order, heard as they are typed, taken with Enter. */
export function CalloutLine({ visit, vocabulary, units, onTypes }: Props) {
  const [draft, setLine] = useDraft(lineDraft(visit.id))
  const { padOpen } = usePreferences()
  const field = useRef<HTMLInputElement>(null)
  const [began, setBegan] = useDraft(`units:${visit.id}`)
  const text = draft ?? ''
  // A line begun in one unit system stays in it: what is half typed never means something else.
  const of = text === '' || began === undefined ? units : (began as Units)
  useEffect(() => {
    if (text === '' && began !== undefined) setBegan(undefined)
    if (text !== '' && began === undefined) setBegan(units)
  }, [text, began, setBegan, units])
  const heard = useHeard(text, visit.system.id, of)
  const closed = visit.state === 'closed'
  const besidePad = padOpen ? 'max-sm:hidden' : '' // the pad has these keys itself

  const take = useCallback(() => {
    if (text.trim() === '' || closed) return
    writeOn(visit.id, 'callouts', { text, heard_at: new Date(serverNow()).toISOString() }, of)
    setLine(undefined)
  }, [text, closed, visit.id, of, setLine])

  const last = useLastDone(visit.id)
  const takeBack = () => last && !closed && undo(last, units)

  const whyNot = useTakeBackRefused(visit.id, text, setLine)
  useKeys([
    { key: '/', label: 'Go to the line', run: () => field.current?.focus() },
    { key: 'p', label: 'Show or hide the pad', run: togglePad },
    { key: 'u', label: 'Undo what was written here last', run: takeBack },
  ])

  return (
    <section
      aria-label="Type readings"
      onFocus={() => onTypes(true)}
      onBlur={() => onTypes(false)}
      className="sticky bottom-0 z-10 order-last border-t-2 border-ink bg-ground px-3 py-1.5 md:px-5"
    >
      {of !== units && (
        <p className="mb-1 text-[0.92rem]" role="status" data-begun-in={of}>
          This line was begun in {UNIT_WORDS[of]} and is read so.
        </p>
      )}
      <HeardLine heard={heard} text={text} onReplace={setLine} />
      {whyNot !== '' && (heard?.misheard.length ?? 0) === 0 && (
        <p role="alert" className="mb-2 border-l-4 border-alarm pl-2 text-[0.95rem]">
          Not taken. {whyNot}
        </p>
      )}
      <form
        className="flex items-stretch gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          take()
        }}
      >
        <label className="sr-only" htmlFor="callout">
          Type readings
        </label>
        <input
          id="callout"
          ref={field}
          value={text}
          disabled={closed}
          autoComplete="off"
          autoCapitalize="none"
          spellCheck={false}
          inputMode={padOpen ? 'none' : 'text'}
          enterKeyHint="send"
          placeholder={closed ? 'This visit is closed.' : exampleFor(visit)[units]}
          onChange={(event) => setLine(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') event.currentTarget.blur()
          }}
          className="h-12 min-w-0 flex-1 rounded border-2 border-ink bg-sheet px-3 font-mono text-[1.1rem] placeholder:text-soft/80"
        />
        <Button
          type="submit"
          className={`${besidePad} border-2 border-ink font-bold max-sm:px-3`}
          disabled={closed || text.trim() === ''}
          keyHint="↵"
        >
          Take
        </Button>
        <Button
          className={`${besidePad} max-sm:hidden`}
          onClick={takeBack}
          disabled={!last || closed}
          keyHint="u"
        >
          Undo
        </Button>
        <Button
          className={`${besidePad} max-sm:px-2`}
          aria-pressed={padOpen}
          onClick={togglePad}
          keyHint="p"
        >
          <span aria-hidden className="sm:hidden">
            ⌨
          </span>
          <span className="max-sm:sr-only">{padOpen ? 'Hide pad' : 'Pad'}</span>
        </Button>
      </form>
      {padOpen && !closed && (
        <Pad
          vocabulary={vocabulary}
          text={text}
          onText={setLine}
          onTake={take}
          onUndo={takeBack}
          onHide={() => setPreference('padOpen', false)}
        />
      )}
    </section>
  )
}

/** Begin the line with a point's short word, ready for its number. */
export function callOut(visitId: string, point: string, vocabulary: Vocabulary): void {
  const word = vocabulary.points.find((row) => row.key === point)?.short[0]
  if (word !== undefined) setDraft(lineDraft(visitId), `${word} `)
  document.getElementById('callout')?.focus()
}

/** What the line would mean if it were taken now. Silent while the server is. */
function useHeard(text: string, systemId: string, units: Units): Heard | null {
  const [heard, setHeard] = useState<{ text: string; heard: Heard } | null>(null)
  useEffect(() => {
    if (text.trim() === '') return
    let stale = false
    const timer = setTimeout(() => {
      const body = { text, system_id: systemId }
      got(api.POST('/api/callout', { params: { query: { units } }, body }))
        .then((answer) => {
          if (!stale) setHeard({ text, heard: answer })
        })
        .catch(() => undefined)
    }, 60)
    return () => {
      stale = true
      clearTimeout(timer)
    }
  }, [text, systemId, units])
  return text.trim() === '' ? null : (heard?.heard ?? null)
}

/** A line the server refused goes back where it was typed, once, with the reasons. */
function useTakeBackRefused(
  visitId: string,
  text: string,
  setDraft: (text: string | undefined) => void,
): string {
  const [why, setWhy] = useDraft(`refused:${visitId}`) // the line, and why it was not taken
  const { refused } = useOutbox()
  const mine = refused.find(
    ({ message }) => message.visitId === visitId && message.path.endsWith('/callouts'),
  )
  useEffect(() => {
    if (!mine) return
    const said = 'text' in mine.message.body ? String(mine.message.body.text) : ''
    const back = text.trim() === '' || text === said ? said : `${said} ${text}`
    setDraft(back)
    setWhy(`${back}\n${mine.problems.map((problem) => problem.message).join(' ')}`)
    dismiss(mine.message.id)
  }, [mine, text, setDraft, setWhy])
  const [line = '', said = ''] = why?.split('\n') ?? []
  return text !== '' && line === text ? said : ''
}

type HeardProps = {
  heard: Heard | null
  text: string
  onReplace: (text: string) => void
}

function HeardLine({ heard, text, onReplace }: HeardProps) {
  if (heard === null) return null
  return (
    <div aria-live="polite" className="mb-2 flex flex-col gap-1">
      {heard.spoken.length > 0 && (
        <p className="flex flex-wrap gap-x-4 text-[0.95rem]" data-heard={heard.spoken.length}>
          {heard.corrects && <strong>Correcting:</strong>}
          {heard.spoken.map((one) => (
            <span key={one.point} className="whitespace-nowrap">
              {one.label} <strong>{formatNumber(one.value, one.decimals)}</strong> {one.unit}
            </span>
          ))}
        </p>
      )}
      {heard.misheard.map((one) => (
        <p
          key={`${one.start}-${one.message}`}
          role="alert"
          className="flex flex-wrap items-center gap-2 border-l-4 border-alarm pl-2 text-[0.95rem]"
        >
          {one.message}
          {one.nearest.map((word) => (
            <Button
              key={word}
              className="px-3 font-mono"
              onClick={() => onReplace(swapWord(text, one.start, word))}
            >
              {word}
            </Button>
          ))}
        </p>
      ))}
    </div>
  )
}

/** The text with the word that starts at `start` replaced. */
function swapWord(text: string, start: number, word: string): string {
  const rest = text.slice(start).replace(/^[^\s\d,;=:]+/, word)
  return text.slice(0, start) + rest
}
