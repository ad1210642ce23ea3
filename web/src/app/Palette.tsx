import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useSearch } from '../api/queries'
import { reachableActions } from '../state/keys'
import { Card } from '../ui/Card'

type Choice = { key: string; title: string; below: string; run: () => void }

const PLACES = [
  ['/', 'Today'],
  ['/systems', 'Systems'],
  ['/shelf', 'Cylinders'],
  ['/pocket', 'Calculators'],
  ['/workshop', 'Workshop'],
] as const

const TO = { site: '/systems', system: '/systems', visit: '/visits' } as const

/** Everything by its name: places, what can be done here, sites, systems, visits. */
export function Palette({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const hits = useSearch(text)
  const words = text.trim().toLowerCase()
  const go = (to: string) => () => void navigate(to)
  const choices: Choice[] = [
    ...hits.map((hit) => ({
      key: `${hit.kind}:${hit.id}`,
      title: hit.title,
      below: `${hit.kind} · ${hit.below}`,
      run: go(hit.kind === 'site' ? TO.site : `${TO[hit.kind]}/${hit.id}`),
    })),
    ...PLACES.map(([to, label]) => ({ key: to, title: label, below: 'go there', run: go(to) })),
    ...reachableActions().map((action) => ({
      key: `do:${action.key}:${action.label}`,
      title: action.label,
      below: `key ${action.shown ?? action.key}`,
      run: () => setTimeout(action.run),
    })),
  ].filter((choice) =>
    !choice.key.startsWith('/') && !choice.key.startsWith('do:')
      ? true
      : choice.title.toLowerCase().includes(words),
  )
  const shown = choices.slice(0, 12)
  const choose = (choice: Choice | undefined) => {
    if (!choice) return
    onClose()
    choice.run()
  }
  return (
    <Card open onClose={onClose} title="Find">
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="found"
        aria-activedescendant={shown[at] ? `found-${at}` : undefined}
        aria-label="Find a site, a system, a visit, or something to do"
        placeholder="A site, a system, a visit, or something to do"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          setAt(0)
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(at + 1, shown.length - 1))
          else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0))
          else if (event.key === 'Enter') choose(shown[at])
          else return
          event.preventDefault()
        }}
        className="h-12 w-full rounded border-2 border-ink bg-ground px-3 text-[1.1rem] placeholder:text-soft"
      />
      <ul id="found" role="listbox" aria-label="Found" className="mt-2">
        {shown.map((choice, index) => (
          <li
            key={choice.key}
            id={`found-${index}`}
            role="option"
            aria-selected={index === at}
            onClick={() => choose(choice)}
            onKeyDown={() => undefined}
            className="flex min-h-11 cursor-pointer flex-wrap items-center justify-between gap-x-4 border-b border-rule px-2 aria-selected:bg-ink aria-selected:text-ground"
          >
            <span className="min-w-0 break-words">{choice.title}</span>
            <span className="text-[0.88rem] opacity-80">{choice.below}</span>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="py-3">Nothing is called that.</p>}
    </Card>
  )
}
