import { useState } from 'react'
import { api, got } from '../../api/client'
import { useAsking } from '../../lib/asking'
import { Button } from '../../ui/Button'

const FIELD = 'mt-1 h-14 w-full rounded border-2 border-ink bg-sheet px-3'

/** A device that was not let in yet: the code from the machine's screen, and a name for this one. */
export function PairScreen() {
  const [code, setCode] = useState(() => window.location.hash.slice(1).replace(/\D/g, ''))
  const [name, setName] = useState('')
  const [isIn, setIn] = useState(false)
  const { said, busy, ask } = useAsking()
  const pair = () =>
    ask(async () => {
      await got(api.POST('/api/pairing/claims', { body: { code, name } }))
      setIn(true)
      // One fresh start, and the code does not stay in the history.
      window.location.replace('/')
    })
  return (
    <main className="mx-auto w-full max-w-md px-4 py-8">
      <h1 className="text-[1.6rem] font-bold">Pair this device</h1>
      <p className="mt-2">
        On the machine Nudge runs on, open <strong>Workshop</strong> and choose{' '}
        <strong>Let a device in</strong>. Type the code that is shown there, or scan its square.
      </p>
      <form
        aria-label="Pair"
        className="mt-5 space-y-4"
        onSubmit={(event) => {
          event.preventDefault()
          void pair()
        }}
      >
        <label className="block font-bold">
          Code
          <input
            autoFocus={code === ''}
            inputMode="numeric"
            autoComplete="one-time-code"
            value={code}
            maxLength={12}
            onChange={(event) => setCode(event.target.value)}
            className={`${FIELD} font-mono text-[1.6rem] tracking-widest`}
          />
        </label>
        <label className="block font-bold">
          What this device is called
          <input
            autoFocus={code !== ''}
            value={name}
            maxLength={40}
            placeholder="Van tablet"
            onChange={(event) => setName(event.target.value)}
            className={`${FIELD} text-[1.1rem] font-normal placeholder:text-soft`}
          />
          <span className="block text-[0.92rem] font-normal text-soft">
            It stands beside everything written on it.
          </span>
        </label>
        <Button
          type="submit"
          weight="do"
          className="w-full"
          disabled={isIn || busy !== '' || code.trim() === '' || name.trim() === ''}
        >
          Pair
        </Button>
      </form>
      {said !== '' && (
        <p role="alert" className="mt-3 border-l-4 border-alarm pl-2">
          {said}
        </p>
      )}
    </main>
  )
}
