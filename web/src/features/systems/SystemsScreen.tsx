import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { useRefrigerants, useSites, useVocabulary } from '../../api/queries'
import type { Site } from '../../api/types'
import { useKeys } from '../../state/keys'
import { post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { LeftOut } from '../../ui/LeftOut'
import { LoadState } from '../../ui/LoadState'
import { AddForm } from './AddForm'
import { DefaultMethods } from './DefaultMethods'
import { TakeIn } from './TakeIn'
import { newId } from '../../lib/ids'

/** The book: every site with its systems, found by typing any part of a name or a plate. */
export function SystemsScreen() {
  const sites = useSites()
  const refrigerants = useRefrigerants()
  const { units } = usePreferences()
  const navigate = useNavigate()
  const [wanted, setWanted] = useState('')
  const [addingSite, setAddingSite] = useState(false)
  useKeys([
    { key: '/', label: 'Find a system', run: () => document.getElementById('find')?.focus() },
    { key: 'a', label: 'Add a site', run: () => setAddingSite(true) },
  ])

  const addSite = (name: string) => {
    const id = newId()
    post('/api/sites', { id, name }, { id, units })
    setAddingSite(false)
  }
  const addSystem = (site: Site, name: string, [fluid = '', device = '']: string[]) => {
    const id = newId()
    const body = { id, site_id: site.id, name, refrigerant: fluid, metering_device: device }
    post('/api/systems', body, { id, units })
    void navigate(`/systems/${id}`)
  }

  return (
    <div className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 md:px-6">
      <h1 className="sr-only">Systems</h1>
      <div className="flex flex-wrap items-center gap-3">
        <label className="sr-only" htmlFor="find">
          Find a system
        </label>
        <input
          id="find"
          type="search"
          value={wanted}
          placeholder="Find a site, a system, a refrigerant"
          onChange={(event) => setWanted(event.target.value)}
          className="h-12 min-w-0 flex-1 basis-64 rounded border-2 border-ink bg-sheet px-3 placeholder:text-soft"
        />
        <Button keyHint="a" onClick={() => setAddingSite(!addingSite)}>
          Add a site
        </Button>
      </div>
      {addingSite && (
        <AddForm label="Name of the site" onAdd={addSite} onCancel={() => setAddingSite(false)} />
      )}
      <LoadState of={sites}>
        {(all) => {
          const found = search(all, wanted)
          return (
            <>
              <LeftOut of={all.flatMap((site) => site.broken)} />
              {all.length === 0 && (
                <p className="py-6">The book is empty. Add the first site to begin.</p>
              )}
              {all.length > 0 && found.length === 0 && (
                <p className="py-6">Nothing in the book matches “{wanted.slice(0, 60)}”.</p>
              )}
              <ul className="mt-4 grid grid-cols-1 gap-x-10 gap-y-6 lg:grid-cols-2">
                {found.map((site) => (
                  <SiteEntry
                    key={site.id}
                    site={site}
                    fluids={
                      refrigerants.status === 'ready'
                        ? refrigerants.data.map((fluid) => fluid.name)
                        : []
                    }
                    onAdd={(name, chosen) => addSystem(site, name, chosen)}
                  />
                ))}
              </ul>
            </>
          )
        }}
      </LoadState>
      <DefaultMethods />
      <TakeIn />
    </div>
  )
}

function search(sites: Site[], wanted: string): Site[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (text: string) => words.every((word) => text.toLowerCase().includes(word))
  return sites.flatMap((site) => {
    const systems = site.systems.filter((one) => has(`${site.name} ${one.name} ${one.summary}`))
    return systems.length > 0 || has(site.name) ? [{ ...site, systems }] : []
  })
}

type EntryProps = {
  site: Site
  fluids: string[]
  onAdd: (name: string, chosen: string[]) => void
}

function SiteEntry({ site, fluids, onAdd }: EntryProps) {
  const vocabulary = useVocabulary()
  const devices =
    vocabulary.status === 'ready'
      ? vocabulary.data.metering_devices.map((one) => [one.key, one.label] as const)
      : []
  const [adding, setAdding] = useState(false)
  return (
    <li>
      <div className="flex items-center justify-between gap-3 border-b border-rule-strong">
        <h2 className="min-w-0 truncate text-[1.1rem]">{site.name}</h2>
        <Button weight="quiet" className="-mr-4" onClick={() => setAdding(!adding)}>
          Add a system
        </Button>
      </div>
      {adding && (
        <AddForm
          label="Nickname of the system"
          choices={[
            {
              label: 'Refrigerant on the plate',
              options: fluids.map((one) => [one, one] as const),
            },
            { label: 'Metering device', options: devices },
          ]}
          onAdd={(name, chosen) => {
            setAdding(false)
            onAdd(name, chosen)
          }}
          onCancel={() => setAdding(false)}
        />
      )}
      {site.systems.length === 0 && <p className="py-2 text-soft">No system here yet.</p>}
      <ul>
        {site.systems.map((system) => (
          <li key={system.id} className="border-b border-rule">
            <Link to={`/systems/${system.id}`} className="block min-h-11 py-2 leading-snug">
              <strong className="block">{system.name}</strong>
              <span className="text-[0.92rem] text-soft">{system.summary}</span>
            </Link>
          </li>
        ))}
      </ul>
    </li>
  )
}
