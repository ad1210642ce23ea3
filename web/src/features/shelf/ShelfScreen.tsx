import { useState } from 'react'
import { useCylinders, useLedger, useRefrigerants, useVocabulary } from '../../api/queries'
import type { Cylinder } from '../../api/types'
import { useKeys } from '../../state/keys'
import { usePreferences } from '../../state/preferences'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LeftOut } from '../../ui/LeftOut'
import { LoadState } from '../../ui/LoadState'
import { AddCylinder } from './AddCylinder'
import { CylinderCard } from './CylinderCard'
import { LeakRates } from './LeakRates'
import { LedgerTable } from './LedgerTable'

/** The cylinders in the van, what moved in and out of them, and which systems lose it. */
export function ShelfScreen() {
  const cylinders = useCylinders()
  const ledger = useLedger()
  const refrigerants = useRefrigerants()
  const vocabulary = useVocabulary()
  const { units } = usePreferences()
  const [adds, setAdds] = useState(false)
  useKeys([{ key: 'a', label: 'Add a cylinder', run: () => setAdds(true) }])
  const fluids = refrigerants.status === 'ready' ? refrigerants.data.map((one) => one.name) : []
  return (
    <div className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 md:px-6">
      <h1 className="sr-only">Cylinders</h1>
      <div className="flex flex-wrap items-center gap-3">
        <p className="min-w-0 flex-1 basis-72 text-soft">
          Weigh a cylinder when you put it away and when you pick it up: what is missing between the
          two has leaked.
        </p>
        <Button keyHint="a" onClick={() => setAdds(!adds)}>
          Add a cylinder
        </Button>
      </div>
      {adds && vocabulary.status === 'ready' && (
        <AddCylinder
          fluids={fluids}
          kinds={vocabulary.data.cylinder_kinds}
          units={units}
          onDone={() => setAdds(false)}
        />
      )}
      <LoadState of={cylinders}>
        {(all) =>
          all.length === 0 ? (
            <p className="py-6">
              The shelf is empty. Add a cylinder: its refrigerant, what it weighs empty, and what it
              weighs now.
            </p>
          ) : (
            <ul className="mt-4 grid grid-cols-1 gap-x-8 gap-y-5 md:grid-cols-2 xl:grid-cols-3">
              {lostFirst(all).map((one) => (
                <CylinderCard key={one.id} cylinder={one} all={all} units={units} />
              ))}
            </ul>
          )
        }
      </LoadState>
      <LoadState of={ledger}>
        {(book) => (
          <div className="mt-8 grid grid-cols-1 gap-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
            <section aria-label="Ledger">
              <LeftOut of={book.broken} />
              <Heading
                aside={
                  <a
                    href="/api/ledger.csv"
                    download="nudge-ledger.csv"
                    className="inline-flex min-h-11 items-center underline underline-offset-4"
                  >
                    Save as CSV
                  </a>
                }
              >
                Ledger
              </Heading>
              <LedgerTable
                movements={book.movements}
                cylinders={cylinders.status === 'ready' ? cylinders.data : []}
              />
            </section>
            <LeakRates book={book} units={units} />
          </div>
        )}
      </LoadState>
    </div>
  )
}

/** A cylinder that lost weight stands first. */
function lostFirst(all: Cylinder[]): Cylinder[] {
  return [...all].sort((one, other) => Number(other.loss !== null) - Number(one.loss !== null))
}
