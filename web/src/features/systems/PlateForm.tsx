import { useEffect, useRef, type ReactNode } from 'react'
import type {
  MethodChoice,
  PlateNumber,
  Refrigerant,
  System,
  SystemPage,
  Units,
  Vocabulary,
} from '../../api/types'
import { useDraft } from '../../state/drafts'
import type { PatchedBody } from '../../api/writes'
import { patch, post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { useTypedField, type TypedField } from '../../state/typedField'
import { Button } from '../../ui/Button'

type Props = {
  system: System
  vocabulary: Vocabulary
  fluids: Refrigerant[]
  methods: MethodChoice[]
  columns: { indoor_unit: string[]; blower_tap: string[] }
  /** A visit is under way: another refrigerant or device is asked about before it is sent. */
  isVisited: boolean
}

/** A system's plate. Every field is sent by itself once typing pauses; there is no Save. */
export function PlateForm(props: Props) {
  const { system, vocabulary, fluids, methods, columns, isVisited } = props
  const isValve = system.metering_device !== 'fixed_orifice'
  const fitting = methods.find((one) => one.key === (isValve ? 'valve_method' : 'orifice_method'))
  const choices = [
    { field: 'refrigerant', label: 'Refrigerant', options: fluids.map((f) => [f.name, f.name]) },
    {
      field: 'metering_device',
      label: 'Metering device',
      options: vocabulary.metering_devices.map((one) => [one.key, one.label]),
    },
    {
      field: 'application',
      label: 'Application',
      options: vocabulary.applications.map((one) => [one.key, one.label]),
    },
    {
      field: 'reversing_valve',
      label: 'Heat pump (reversing valve)',
      options: vocabulary.reversing_valves.map((one) => [one.key, one.label]),
    },
    {
      field: 'method',
      label: 'Charge is judged by',
      options: [
        ['', 'the workshop’s default'],
        ...(fitting?.methods ?? []).map((one) => [one.key, one.label.toLowerCase()]),
      ],
    },
  ] as const
  return (
    <div className="grid gap-x-6 gap-y-3 pt-3 sm:grid-cols-2">
      <TextField system={system} field="name" label="Nickname" />
      {choices.map(({ field, label, options }) => (
        <ChoiceField
          key={field}
          {...{ system, field, label, options }}
          asks={isVisited && (field === 'refrigerant' || field === 'metering_device')}
        />
      ))}
      {vocabulary.plate_numbers
        .filter((row) => row.about === 'plate')
        .map((row) => (
          <NumberField key={row.key} system={system} row={row} />
        ))}
      <PlateChoices {...{ system, vocabulary }} about="plate" />
      {columns.indoor_unit.length > 1 && (
        <TextField
          system={system}
          field="indoor_unit"
          label="Indoor unit, as on the chart"
          known={columns.indoor_unit}
        />
      )}
      {columns.blower_tap.length > 1 && (
        <TextField
          system={system}
          field="blower_tap"
          label="Blower tap, as on the table"
          known={columns.blower_tap}
        />
      )}
      <div className="sm:col-span-2">
        <TextField system={system} field="note" label="Note for whoever comes next" />
      </div>
    </div>
  )
}

/** A heat pump in winter: its rating points, strips, lockouts, what its house loses. */
export function WinterFields({ system, vocabulary }: Pick<Props, 'system' | 'vocabulary'>) {
  return (
    <div className="grid gap-x-6 gap-y-3 pt-3 sm:grid-cols-2">
      {vocabulary.plate_numbers
        .filter((row) => row.about === 'heating')
        .map((row) => (
          <NumberField key={row.key} system={system} row={row} />
        ))}
    </div>
  )
}

/** A cold room by its design: set point, classes, how it defrosts. */
export function RoomFields({
  system,
  vocabulary,
  sisters,
}: Pick<Props, 'system' | 'vocabulary'> & { sisters: SystemPage['sister_boxes'] }) {
  const { units } = usePreferences()
  return (
    <div className="grid gap-x-6 gap-y-3 pt-3 sm:grid-cols-2">
      {sisters.length > 0 && (
        <p className="flex flex-wrap items-center gap-2 sm:col-span-2">
          Built like another box here:
          {sisters.map((one) => (
            <Button
              key={one.key}
              onClick={() =>
                post(
                  '/api/systems/{system_id}/box',
                  { from_system: one.key },
                  { units, blanks: { system_id: system.id } },
                )
              }
            >
              Take over the design of {one.label}
            </Button>
          ))}
        </p>
      )}
      {vocabulary.plate_numbers
        .filter((row) => row.about === 'cold_room')
        .map((row) => (
          <NumberField key={row.key} system={system} row={row} />
        ))}
      <PlateChoices {...{ system, vocabulary }} about="cold_room" />
    </div>
  )
}

type ChoicesProps = Pick<Props, 'system' | 'vocabulary'> & { about: PlateNumber['about'] }

/** What a plate says by a word. */
export function PlateChoices({ system, vocabulary, about }: ChoicesProps) {
  return vocabulary.plate_choices
    .filter((row) => row.about === about)
    .map((row) => (
      <ChoiceField
        key={row.key}
        {...{ system, field: row.key, label: row.label, asks: false }}
        options={[['', 'not said'], ...row.options.map((one) => [one.key, one.label])]}
      />
    ))
}

/** The plate's numbers about charge, beside the sum they come to; its line set, where it has one. */
export function ChargeFields({
  system,
  vocabulary,
  hasLineSet,
}: Pick<Props, 'system' | 'vocabulary'> & { hasLineSet: boolean }) {
  const isShown = (row: PlateNumber) =>
    row.about === 'charge' || (hasLineSet && row.about === 'line_set')
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-3 pt-3 sm:gap-x-6">
      {vocabulary.plate_numbers.filter(isShown).map((row) => (
        <NumberField key={row.key} system={system} row={row} />
      ))}
    </div>
  )
}

/** One field of a plate, sent by itself. */
type PlateValue = string | number | null

function usePlateField(
  system: System,
  field: string,
  stored: string,
  read: (text: string) => PlateValue | Error,
): TypedField {
  const { units } = usePreferences()
  const path = `/systems/${encodeURIComponent(system.id)}`
  const seen = useRef<PlateValue>(stored)
  const typed = useTypedField({
    draft: `plate:${system.id}:${field}:${units}`,
    stored,
    about: (message) => message.path === path && field in message.body,
    read,
    send: (value) => {
      sendField(system.id, { [field]: value, was: { [field]: seen.current } }, units)
      seen.current = value
    },
  })
  useEffect(() => {
    // What was last seen: not what came in while one was typing, unless it was refused for that.
    if (typed.text !== stored && typed.problem === null) return
    const value = read(stored)
    if (!(value instanceof Error)) seen.current = value
  })
  return typed
}

/** What it was goes with it: where somebody changed it meanwhile, nothing is overwritten. */
function sendField(id: string, body: PatchedBody<'/api/systems/{system_id}'>, units: Units) {
  patch('/api/systems/{system_id}', body, { units, blanks: { system_id: id } })
}

function NumberField({ system, row }: { system: System; row: PlateNumber }) {
  const value = system.numbers[row.key]
  const stored = value === null || value === undefined ? '' : String(value)
  const typed = usePlateField(system, row.key, stored, (text) => {
    if (text.trim() === '') return null
    const number = Number(text.replaceAll(',', ''))
    return Number.isFinite(number) ? number : new Error(`“${text.slice(0, 20)}” is not a number.`)
  })
  return (
    <Labelled id={`plate-${row.key}`} label={row.label} aside={row.hint} problem={typed.problem}>
      <span className="flex items-center gap-2">
        <input
          id={`plate-${row.key}`}
          inputMode="decimal"
          autoComplete="off"
          value={typed.text}
          placeholder="not given"
          aria-invalid={typed.problem !== null}
          onChange={(event) => typed.type(event.target.value)}
          onBlur={typed.settle}
          className="h-11 min-w-0 flex-1 rounded border border-rule-strong bg-sheet px-2 placeholder:text-soft aria-invalid:border-2 aria-invalid:border-alarm"
        />
        <span className="w-14 shrink-0 text-soft">{row.unit}</span>
      </span>
    </Labelled>
  )
}

type TextProps = {
  system: System
  field: 'name' | 'note' | 'indoor_unit' | 'blower_tap'
  label: string
  known?: string[]
}

function TextField({ system, field, label, known = [] }: TextProps) {
  const typed = usePlateField(system, field, system[field], (text) => text)
  return (
    <Labelled id={`plate-${field}`} label={label} aside="" problem={typed.problem}>
      <input
        id={`plate-${field}`}
        autoComplete="off"
        value={typed.text}
        aria-invalid={typed.problem !== null}
        onChange={(event) => typed.type(event.target.value)}
        onBlur={typed.settle}
        list={known.length > 0 ? `known-${field}` : undefined}
        className="h-11 w-full rounded border border-rule-strong bg-sheet px-2 aria-invalid:border-2 aria-invalid:border-alarm"
      />
      {known.length > 0 && (
        <datalist id={`known-${field}`}>
          {known.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </Labelled>
  )
}

type Named = 'refrigerant' | 'metering_device' | 'application' | 'method' | 'reversing_valve'
type ChoiceProps = {
  system: System
  /** One of the system's own names, or the key of a word its plate may say. */
  field: Named | (string & {})
  label: string
  options: readonly (readonly string[])[]
  asks: boolean
}

function ChoiceField({ system, field, label, options, asks }: ChoiceProps) {
  const { units } = usePreferences()
  const [draft, setDraft] = useDraft(`plate:${system.id}:${field}:${units}`)
  const stored = system.choices[field] ?? system[field as Named]
  useEffect(() => {
    if (draft === stored) setDraft(undefined)
  }, [draft, stored, setDraft])
  return (
    <Labelled id={`plate-${field}`} label={label} aside="" problem={null}>
      <select
        id={`plate-${field}`}
        value={draft ?? stored}
        onChange={(event) => {
          setDraft(event.target.value)
          const was = { [field]: stored }
          if (!asks) sendField(system.id, { [field]: event.target.value, was }, units)
        }}
        className="h-11 w-full rounded border border-rule-strong bg-sheet px-2"
      >
        {options.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
      {asks && draft !== undefined && draft !== stored && (
        <WasItWrong
          was={options.find(([key]) => key === stored)?.[1] ?? stored}
          now={options.find(([key]) => key === draft)?.[1] ?? draft}
          onAnswer={(wrong) =>
            sendField(
              system.id,
              { [field]: draft, wrong_until_now: wrong, was: { [field]: stored } },
              units,
            )
          }
          onLeave={() => setDraft(undefined)}
        />
      )}
    </Labelled>
  )
}

type WasItWrongProps = {
  was: string
  now: string
  onAnswer: (wrongUntilNow: boolean) => void
  onLeave: () => void
}

/** A visit is under way: what its readings meant depends on the answer. */
function WasItWrong({ was, now, onAnswer, onLeave }: WasItWrongProps) {
  return (
    <div role="group" aria-label="Was it wrong until now?" className="mt-2 border-l-4 pl-2">
      <p className="leading-snug">
        A visit is under way. Was “{was}” written wrong until now, or was the system changed to “
        {now}”?
      </p>
      <div className="mt-1 flex flex-wrap gap-2">
        <Button onClick={() => onAnswer(true)}>Written wrong: judge again</Button>
        <Button onClick={() => onAnswer(false)}>Changed on this visit</Button>
        <Button weight="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </div>
  )
}

type LabelledProps = {
  id: string
  label: string
  aside: string
  problem: string | null
  children: ReactNode
}

function Labelled({ id, label, aside, problem, children }: LabelledProps) {
  return (
    <div>
      <label htmlFor={id} className="block text-[0.92rem]">
        <strong>{label}</strong>
      </label>
      {children}
      {aside !== '' && <p className="text-[0.88rem] leading-tight text-soft">{aside}</p>}
      {problem !== null && (
        <p role="alert" className="mt-1 border-l-4 border-alarm pl-2 text-[0.92rem]">
          {problem} What the book holds is unchanged.
        </p>
      )}
    </div>
  )
}
