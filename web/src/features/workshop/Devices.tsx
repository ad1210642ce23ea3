import { useState } from 'react'
import { api, got } from '../../api/client'
import { queryClient, useDevices, useMe } from '../../api/queries'
import type { Devices as Found, PairingCode } from '../../api/types'
import { useAsking } from '../../lib/asking'
import { clockTime, shortTime } from '../../lib/format'
import { serverDate } from '../../state/clock'
import { Button } from '../../ui/Button'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'
import { Qr } from '../../ui/Qr'

/** Who may come in from another machine: the list, a code for one more, letting one go. */
export function Devices() {
  const me = useMe()
  const isMachine = me.status === 'ready' && me.data.kind === 'machine'
  return (
    <section aria-label="Devices" className="mt-8">
      <Heading aside="on this network">Devices</Heading>
      {me.status === 'ready' && !isMachine && (
        <p className="mt-2">
          This is “{me.data.name}”, paired as {me.data.role}. Devices are let in and out on the
          machine Nudge runs on.
        </p>
      )}
      {isMachine && <List />}
    </section>
  )
}

function List() {
  const devices = useDevices()
  const [code, setCode] = useState<PairingCode | null>(null)
  const { said, ask: tell } = useAsking()
  const ask = async (what: () => Promise<void>) => {
    await tell(what)
    await queryClient.invalidateQueries({ queryKey: ['devices'] })
  }
  const letIn = (role: string) =>
    ask(async () => setCode(await got(api.POST('/api/pairing/codes', { body: { role } }))))
  const letGo = (id: string) =>
    ask(async () => {
      await api.DELETE('/api/devices/{device_id}', { params: { path: { device_id: id } } })
    })
  return (
    <LoadState of={devices}>
      {(found) => (
        <>
          {!found.is_reachable && (
            <p className="mt-2">
              Nudge listens on this machine alone. Start it with <code>HOST=0.0.0.0</code> to let
              devices on this network in.
            </p>
          )}
          {found.is_reachable && <Roles found={found} onLetIn={(role) => void letIn(role)} />}
          {code && <Code code={code} />}
          {said !== '' && (
            <p role="alert" className="mt-2 border-l-4 border-alarm pl-2">
              {said}
            </p>
          )}
          <ul className="mt-3 border-t border-rule">
            {found.devices.map((one) => (
              <li
                key={one.id}
                className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule py-1"
              >
                <span>
                  <strong className="break-words">{one.name}</strong>
                  <span className="block text-[0.92rem] text-soft">
                    {one.role}, seen {shortTime(one.seen_at, serverDate())}
                  </span>
                </span>
                <Button
                  tight
                  className="px-3"
                  aria-label={`Let ${one.name} go`}
                  onClick={() => void letGo(one.id)}
                >
                  Let go
                </Button>
              </li>
            ))}
          </ul>
          {found.devices.length === 0 && <p className="mt-2 text-soft">No device is paired.</p>}
        </>
      )}
    </LoadState>
  )
}

function Roles({ found, onLetIn }: { found: Found; onLetIn: (role: string) => void }) {
  return (
    <div className="mt-3 grid gap-2 sm:grid-cols-2">
      {found.roles.map((role) => (
        <div key={role.key}>
          <Button className="w-full" onClick={() => onLetIn(role.key)}>
            Let a device in: {role.label.toLowerCase()}
          </Button>
          <p className="mt-1 text-[0.92rem] text-soft">{role.reason}</p>
        </div>
      ))}
    </div>
  )
}

/** The code, large enough to read across a counter, and the square that carries it. */
function Code({ code }: { code: PairingCode }) {
  return (
    <div role="group" aria-label="Pairing code" className="mt-3 border-l-8 border-accent pl-3">
      <p className="font-mono text-[2.2rem] leading-tight font-bold" data-pairing-code>
        {code.code}
      </p>
      <p>
        {code.address !== '' ? (
          <>
            On the device open <span className="break-all">{code.address}</span>
          </>
        ) : (
          'This machine is on no network now. Join one, then make a new code.'
        )}{' '}
        and type it there, as {code.role}. It works once, until {clockTime(code.ends_at)}.
      </p>
      {code.qr && <Qr of={code.qr} label="The same as a square to scan" />}
    </div>
  )
}
