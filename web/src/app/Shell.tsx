import { Suspense, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react'
import { NavLink, useLocation, useNavigate } from 'react-router'
import { useHealth } from '../api/queries'
import { useKeys } from '../state/keys'
import { closeFind, openFind, useFinds } from '../state/find'
import { dismiss, isSilent, onSilence, useOutbox } from '../state/outbox'
import { nextUnits, toggleTheme, UNIT_WORDS, usePreferences } from '../state/preferences'
import { Button } from '../ui/Button'
import { Notice } from '../ui/Notice'
import { later } from '../lib/later'
import { ToastLine } from './ToastLine'

const Menu = later(async () => (await import('../ui/Menu')).Menu)
const KeysCard = later(async () => (await import('./KeysCard')).KeysCard)
const Palette = later(async () => (await import('./Palette')).Palette)

/** What is on every screen: where you are, whether what you typed is safe, light and units. */
export function Shell({ children }: { children: ReactNode }) {
  const { theme, units } = usePreferences()
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const [keysOpen, setKeysOpen] = useState(false)
  const finds = useFinds()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return
      event.preventDefault()
      openFind()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  useKeys([
    { key: 't', label: 'Today', run: () => void navigate('/') },
    { key: 's', label: 'Systems', run: () => void navigate('/systems') },
    { key: 'q', shown: 'q, Ctrl K', label: 'Find anything', run: () => openFind() },
    { key: 'k', label: 'Calculators', run: () => void navigate('/pocket') },
    { key: 'n', label: 'Paper or night', run: toggleTheme },
    { key: 'm', label: 'Units: °F psi, °C kPa, °C bar', run: nextUnits },
    { key: '?', label: 'These keys', run: () => setKeysOpen(true) },
  ])
  return (
    <div className="flex min-h-dvh flex-col lg:has-data-workspace:h-dvh">
      <a
        href="#callout"
        onClick={(event) => {
          const line = document.getElementById('callout')
          event.preventDefault()
          ;(line ?? document.querySelector<HTMLElement>('main'))?.focus()
        }}
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-ink focus:p-3 focus:text-ground"
      >
        {pathname.startsWith('/visits/') ? 'Type readings' : 'Skip to the page'}
      </a>
      <main tabIndex={-1} className="order-3 flex min-h-0 flex-1 flex-col">
        {children}
      </main>
      <div
        className="order-1 flex flex-wrap items-center gap-x-1 border-b-2 border-ink px-3 data-visit:max-sm:hidden md:px-5 print:hidden"
        data-visit={pathname.startsWith('/visits/') || undefined}
      >
        <span className="flex items-center gap-2 pr-3 text-[1.2rem] font-extrabold tracking-tight max-sm:hidden">
          <svg viewBox="0 0 32 32" aria-hidden className="h-7 w-7">
            <path d="M22 6h5v20h-5" fill="none" stroke="var(--ink)" strokeWidth="3" />
            <path d="M3 16h12m-5-6 6 6-6 6" fill="none" stroke="var(--accent)" strokeWidth="3.4" />
          </svg>
          <span>Nudge</span>
        </span>
        <nav className="flex" aria-label="Screens">
          <Place to="/">Today</Place>
          <Place to="/systems">Systems</Place>
          <Place to="/shelf">Cylinders</Place>
          <Place to="/pocket">Calculators</Place>
        </nav>
        <div className="ml-auto flex items-center sm:[&>button]:px-4">
          <Kept />
          <span className="sm:hidden">
            <Suspense fallback={<span className="inline-block w-11" />}>
              <Menu
                label="More"
                rows={[
                  { label: 'Find', run: openFind },
                  { label: `Units: ${UNIT_WORDS[units]}`, run: nextUnits },
                  { label: 'Workshop', run: () => void navigate('/workshop') },
                  { label: theme === 'night' ? 'Light' : 'Night', run: toggleTheme },
                ]}
              >
                <span aria-hidden>⋮</span>
              </Menu>
            </Suspense>
          </span>
          <Button weight="quiet" className="no-underline max-sm:hidden" onClick={() => openFind()}>
            Find
          </Button>
          <Button weight="quiet" className="no-underline max-sm:hidden" onClick={nextUnits}>
            {UNIT_WORDS[units]}
          </Button>
          <Button weight="quiet" className="no-underline max-sm:hidden" onClick={toggleTheme}>
            {theme === 'night' ? 'Night' : 'Paper'}
          </Button>
          <Button
            weight="quiet"
            className="no-underline max-md:hidden"
            onClick={() => void navigate('/workshop')}
          >
            Workshop
          </Button>
          <Button
            weight="quiet"
            className="no-underline max-sm:hidden"
            aria-label="Keys"
            onClick={() => setKeysOpen(true)}
          >
            ?
          </Button>
        </div>
      </div>
      <div className="order-2">
        <Troubles />
        <Silence />
        <RefusedPile />
      </div>
      <Suspense fallback={null}>{finds && <Palette onClose={() => closeFind()} />}</Suspense>
      <ToastLine />
      <Suspense fallback={null}>
        {keysOpen && <KeysCard open onClose={() => setKeysOpen(false)} />}
      </Suspense>
    </div>
  )
}

function Place({ to, children }: { to: string; children: string }) {
  return (
    <NavLink
      to={to}
      end={to === '/'}
      className="flex min-h-11 items-center border-b-4 border-transparent px-1.5 aria-[current=page]:border-accent aria-[current=page]:font-bold sm:px-3"
    >
      {children}
    </NavLink>
  )
}

function Kept() {
  const { waiting } = useOutbox()
  return (
    <span
      role="status"
      data-waiting={waiting.length}
      className="px-2 text-[0.9rem] text-soft data-[waiting='0']:hidden sm:data-[waiting='0']:inline"
    >
      {waiting.length === 0 ? 'Saved' : `${waiting.length} to send`}
    </span>
  )
}

/** What endangers the data stands over everything, until it is put right. */
function Troubles() {
  const health = useHealth()
  if (health.status !== 'ready') return null
  return health.data.troubles.map((trouble) => (
    <div key={trouble.key} className="px-4 pt-2 md:px-6" data-trouble={trouble.key}>
      <Notice word="Your data is in danger.">{trouble.message}</Notice>
    </div>
  ))
}

function Silence() {
  const silent = useSyncExternalStore(onSilence, isSilent)
  const { waiting } = useOutbox()
  if (!silent || waiting.length === 0) return null
  return (
    <div className="px-4 pt-2 md:px-6">
      <Notice word="No answer from Nudge.">
        {waiting.length === 1 ? 'One entry is' : `${waiting.length} entries are`} kept in this
        browser and will be sent when it answers. Carry on.
      </Notice>
    </div>
  )
}

/** Refused entries that no field shows beside itself: nothing is dropped in silence. */
function RefusedPile() {
  const { refused } = useOutbox()
  const shown = refused.filter(
    ({ message }) => !message.path.endsWith('/callouts') && !isPlateField(message.path),
  )
  return shown.map(({ message, problems }) => (
    <div key={message.id} className="px-4 pt-2 md:px-6">
      <Notice word="Not taken.">
        {problems.map((problem) => problem.message).join(' ')}{' '}
        <Button weight="quiet" onClick={() => dismiss(message.id)}>
          Understood
        </Button>
      </Notice>
    </div>
  ))
}

const isPlateField = (path: string) => /^\/systems\/[^/]+$/.test(path)
