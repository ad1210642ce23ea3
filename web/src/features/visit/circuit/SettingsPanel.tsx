import { useState } from 'react'
import { useMachineSettings } from '../../../api/queries'
import type { MachineSettings, Units, Visit } from '../../../api/types'
import { writeOn } from '../../../state/outbox'
import { Button } from '../../../ui/Button'
import { LoadState } from '../../../ui/LoadState'
import { Panel } from '../../../ui/Panel'

type Props = { visit: Visit; units: Units; onClose: () => void }
type One = MachineSettings['settings'][number]

const BECAME: Record<One['became'], string> = {
  new: 'new',
  changed: 'changed',
  gone: 'not written down this time',
  same: 'as last time',
}

/** The settings of the machine's own controls: as they are left, beside last time's. */
export function SettingsPanel({ visit, units, onClose }: Props) {
  const record = useMachineSettings(visit.id)
  return (
    <Panel open onClose={onClose} title="Machine’s settings">
      <LoadState of={record}>
        {(found) => (
          <>
            <p className="leading-snug text-soft">
              {found.has_before
                ? `Against the last visit: ${found.changes === 0 ? 'nothing changed' : `${found.changes} changed`}.`
                : 'As they are left: name, its maker’s value, yours, and why.'}
            </p>
            {found.settings.length > 0 && <Kept {...{ visit, units }} settings={found.settings} />}
            {visit.state !== 'closed' && (
              <>
                <NewSetting {...{ visit, units }} modes={found.modes} />
                <Sisters {...{ visit, units }} sisters={found.sisters} />
              </>
            )}
          </>
        )}
      </LoadState>
    </Panel>
  )
}

function Kept({ visit, units, settings }: Omit<Props, 'onClose'> & { settings: One[] }) {
  const isOpen = visit.state !== 'closed'
  return (
    <ul className="mt-2 border-t border-rule-strong">
      {settings.map((one) => (
        <li
          key={`${one.name}/${one.mode}`}
          data-setting={one.name}
          data-became={one.became}
          className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1.5"
        >
          <strong className="min-w-20">{one.name}</strong>
          {one.mode !== '' && <span className="text-soft">{one.mode_label}</span>}
          <span className="text-lg font-bold tabular-nums">{one.value || one.before}</span>
          {one.usual !== '' && !one.is_usual && (
            <span className="text-soft">its maker’s: {one.usual}</span>
          )}
          {one.became !== 'new' && (
            <span className={one.became === 'same' ? 'text-soft' : 'font-bold'}>
              {BECAME[one.became]}
              {one.became === 'changed' && ` from ${one.before}`}
            </span>
          )}
          {one.reason !== '' && <span className="basis-full leading-snug">{one.reason}</span>}
          {isOpen && one.value !== '' && (
            <Button
              tight
              weight="quiet"
              aria-label={`Take ${one.name} off`}
              onClick={() =>
                writeOn(visit.id, 'settings', { ...blank, name: one.name, mode: one.mode }, units)
              }
            >
              Take off
            </Button>
          )}
        </li>
      ))}
    </ul>
  )
}

const blank = { name: '', mode: '' as const, usual: '', value: '', reason: '' }
type Typed = { name: string; mode: One['mode']; usual: string; value: string; reason: string }
const FIELDS = [
  ['name', 'Name or number on the board', 80],
  ['usual', 'As its maker set it', 80],
  ['value', 'As you leave it', 80],
  ['reason', 'Why, where it is another', 300],
] as const

function NewSetting({
  visit,
  units,
  modes,
}: Omit<Props, 'onClose'> & { modes: MachineSettings['modes'] }) {
  const [typed, setTyped] = useState<Typed>(blank)
  const isWhole = typed.name.trim() !== '' && typed.value.trim() !== ''
  return (
    <form
      aria-label="Write a setting down"
      className="mt-3 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (!isWhole) return
        writeOn(visit.id, 'settings', typed, units)
        setTyped({ ...blank, mode: typed.mode })
      }}
    >
      {FIELDS.map(([key, label, most]) => (
        <label key={key} className="grid gap-0.5">
          <span className="text-[0.92rem] text-soft">{label}</span>
          <input
            value={typed[key]}
            maxLength={most}
            onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
            className="h-11 rounded border border-rule-strong bg-ground px-2"
          />
        </label>
      ))}
      <label className="grid gap-0.5">
        <span className="text-[0.92rem] text-soft">In which mode</span>
        <select
          value={typed.mode}
          onChange={(event) => setTyped({ ...typed, mode: event.target.value as One['mode'] })}
          className="h-11 rounded border border-rule-strong bg-ground px-2"
        >
          {modes.map((mode) => (
            <option key={mode.key} value={mode.key}>
              {mode.label}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" weight="do" disabled={!isWhole}>
        Write it down
      </Button>
    </form>
  )
}

function Sisters({
  visit,
  units,
  sisters,
}: Omit<Props, 'onClose'> & { sisters: MachineSettings['sisters'] }) {
  if (sisters.length === 0) return null
  return (
    <div className="mt-3 border-t border-rule pt-2">
      <p className="font-bold">A sister machine</p>
      {sisters.map((one) => (
        <Button
          key={one.key}
          className="mt-1"
          onClick={() => writeOn(visit.id, 'carried-settings', { from_system: one.key }, units)}
        >
          Take over from {one.label}
        </Button>
      ))}
    </div>
  )
}
