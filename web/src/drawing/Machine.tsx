import { ToggleGroup } from 'radix-ui'
import type { Choice } from '../api/types'

/** How a part stands: nobody looked, it was found right, or something was found. */
export type PartState = 'unseen' | 'right' | 'found'

type Props = {
  label: string
  parts: Choice[]
  /** The parts that can be touched here, and how each stands. */
  states: Partial<Record<string, PartState>>
  /** What the states are called here. */
  words?: Record<PartState, string>
  chosen: string
  onChoose: (part: string) => void
}

const WIDTH = 380
const HEIGHT = 204
const REACH = 24

/** Where a finger meets each part, in the drawing's units. */
const AT: Record<string, [number, number]> = {
  thermostat: [22, 34],
  indoor_coil: [96, 58],
  blower: [96, 116],
  filter: [96, 172],
  drain: [34, 124],
  bulb: [158, 88],
  liquid_line: [196, 130],
  ports: [222, 178],
  reversing_valve: [346, 172],
  compressor: [292, 150],
  outdoor_coil: [248, 104],
  outdoor_fan: [296, 62],
  panels: [318, 124],
  cylinder: [209, 112],
  disconnect: [352, 36],
}

/** An indoor and an outdoor unit, drawn; each part is a button, arrows go from one to the next. */
export function Machine({ label, parts, states, words = WORDS, chosen, onChoose }: Props) {
  return (
    <div className="relative" style={{ aspectRatio: `${WIDTH} / ${HEIGHT}` }}>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden className="h-full w-full">
        <Units />
        {states['cylinder'] !== undefined && <Cylinder />}
      </svg>
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={chosen}
        onValueChange={(part) => onChoose(part)}
      >
        {parts
          .filter((part) => states[part.key] !== undefined)
          .map((part) => {
            const [x, y] = AT[part.key] ?? [0, 0]
            const state = states[part.key] ?? 'unseen'
            return (
              <ToggleGroup.Item
                key={part.key}
                value={part.key}
                data-part={part.key}
                data-found={state}
                title={part.label}
                aria-label={`${part.label}, ${words[state]}`}
                className="absolute grid h-12 w-12 place-items-center rounded-full data-[state=on]:outline-3 data-[state=on]:outline-ink"
                style={{
                  left: `calc(${(100 * x) / WIDTH}% - ${REACH}px)`,
                  top: `calc(${(100 * y) / HEIGHT}% - ${REACH}px)`,
                }}
              >
                <span
                  aria-hidden
                  data-found={state}
                  className="grid h-6 w-6 place-items-center rounded-full border-2 border-ink bg-ground text-[0.85rem] leading-none font-bold data-[found=found]:bg-ink data-[found=found]:text-ground data-[found=unseen]:border-dashed"
                >
                  {MARKS[state]}
                </span>
              </ToggleGroup.Item>
            )
          })}
      </ToggleGroup.Root>
    </div>
  )
}

const WORDS: Record<PartState, string> = {
  unseen: 'not looked at',
  right: 'found right',
  found: 'something found',
}
const MARKS: Record<PartState, string> = { unseen: '', right: '✓', found: '!' }

/** A cylinder beside the ports, closed. */
function Cylinder() {
  return (
    <path
      d="M200 138V108q0-8 6-9V92h6v7q6 1 6 9V138ZM203 92H215"
      fill="none"
      stroke="var(--ink)"
      strokeWidth="2"
      strokeLinejoin="round"
    />
  )
}

/** The two units and what runs between them. */
function Units() {
  const line = {
    fill: 'none',
    stroke: 'var(--ink)',
    strokeWidth: 2,
    strokeLinejoin: 'round',
  } as const
  const fine = { ...line, stroke: 'var(--rule-strong)', strokeWidth: 1.5 }
  const fins = (x: number, top: number, bottom: number) => `M${x} ${top}V${bottom}`
  return (
    <>
      {/* wall, thermostat, disconnect */}
      <path d="M190 6V96M190 112V198" {...fine} strokeDasharray="5 4" />
      <rect x="12" y="22" width="20" height="26" rx="3" {...line} />
      <path d="M18 30h8M18 35h8" {...fine} />
      <rect x="340" y="20" width="24" height="32" rx="2" {...line} />
      <path d="M352 52V74" {...fine} />
      {/* indoor unit: return below, coil above */}
      <path d="M52 200V10H140V200Z" {...line} />
      <path d="M52 150H140M52 192H140" {...fine} />
      <path d="M58 190l8-16 8 16 8-16 8 16 8-16 8 16 8-16 8 16 8-16 6 12" {...fine} />
      <circle cx="96" cy="116" r="25" {...fine} />
      <path d="M96 91q30 0 30 25h14" {...fine} />
      <path d="M66 82L92 26M126 82L100 26" {...line} strokeWidth="7" stroke="var(--rule-strong)" />
      <path d="M62 86H130M62 86V96H44V116" {...fine} />
      {/* valve and bulb, the two lines */}
      <path d="M130 80H152V96H178V186H222" {...line} stroke="var(--high)" />
      <path d="M130 66H168V82H188V170H222" {...line} stroke="var(--low)" strokeWidth="4.5" />
      <path d="M146 74l12 12M158 74l-12 12" {...line} />
      {/* outdoor unit */}
      <path d="M230 80H352V198H230Z" {...line} />
      <path d="M236 80q0-8 8-8H338q8 0 8 8" {...line} />
      <ellipse cx="296" cy="64" rx="40" ry="8" {...fine} />
      <path d="M256 64H336M296 56V72" {...fine} />
      <path d={[238, 244, 250, 256, 262].map((x) => fins(x, 88, 190)).join('')} {...fine} />
      <path d="M280 190V140q0-12 12-12t12 12v50z" {...line} />
      <path d="M330 166h18v12h-18zM334 166v-8M344 166v-8M339 178v8" {...fine} />
      <circle cx="222" cy="170" r="4" {...line} />
      <circle cx="222" cy="186" r="4" {...line} />
    </>
  )
}
