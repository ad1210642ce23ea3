import type { Vehicle } from '../../api/types'

const [WIDTH, HEIGHT, FOOT, BRACKET] = [560, 340, 300, 46]
const [PIVOT_X, PIVOT_Y, ARM] = [280, 62, 184]

/** The beam hangs down on the side of the larger drop; the tongue stands in its bracket. */
export function Balance({ of }: { of: Vehicle }) {
  if (of.tilt === null) {
    return (
      <p className="grid h-full place-items-center rounded border-2 border-dashed border-rule-strong px-6 text-center">
        The balance needs both drops: the condenser’s two lines, the air before it, the vent.
      </p>
    )
  }
  const down = of.tilt * 30
  const [left, right] = [PIVOT_Y - down, PIVOT_Y + down]
  const tongue = of.tongue === null ? null : PIVOT_X + (of.tongue - 0.5) * 2 * BRACKET
  const words = of.tests.map((row) => `${row.label} ${row.now || 'not read'}`).join(', ')
  const [condenser, air, over] = of.hung.map((key) => of.tests.find((row) => row.key === key))
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`The balance: ${words}.`}
      className="h-full w-full"
      fill="none"
    >
      <path d={`M${PIVOT_X} ${FOOT}V${PIVOT_Y}`} stroke="var(--rule-strong)" strokeWidth="5" />
      <path d={`M${PIVOT_X - 90} ${FOOT}H${PIVOT_X + 90}`} stroke="var(--ink)" strokeWidth="4" />
      <path
        d={`M${PIVOT_X - ARM} ${left}L${PIVOT_X + ARM} ${right}`}
        stroke="var(--ink)"
        strokeWidth="6"
      />
      <path
        d={`M${PIVOT_X - BRACKET + 8} 232H${PIVOT_X - BRACKET}V268H${PIVOT_X - BRACKET + 8}M${PIVOT_X + BRACKET - 8} 232H${PIVOT_X + BRACKET}V268H${PIVOT_X + BRACKET - 8}`}
        stroke="var(--ink)"
        strokeWidth="3"
      />
      {tongue !== null && (
        <path
          d={`M${PIVOT_X} ${PIVOT_Y}L${tongue} 262`}
          stroke="var(--accent)"
          strokeWidth="7"
          strokeLinecap="round"
        />
      )}
      <Pan x={PIVOT_X - ARM} y={left} hue="var(--high)" of={condenser} />
      <Pan x={PIVOT_X + ARM} y={right} hue="var(--low)" of={air} />
      <text
        x={PIVOT_X}
        y={HEIGHT - 14}
        textAnchor="middle"
        fontSize="19"
        fill="var(--ink)"
        fontWeight="bold"
      >
        {over?.label} {over?.now || '–'}
      </text>
    </svg>
  )
}

type PanProps = { x: number; y: number; hue: string; of: Vehicle['tests'][number] | undefined }

/** One pan of the balance, with what hangs in it. */
function Pan({ x, y, hue, of }: PanProps) {
  return (
    <g textAnchor="middle" fill="var(--ink)">
      <path
        d={`M${x} ${y}L${x - 84} ${y + 104}H${x + 84}Z`}
        stroke={hue}
        strokeWidth="3"
        fill="none"
      />
      <path d={`M${x - 84} ${y + 104}H${x + 84}`} stroke={hue} strokeWidth="8" />
      <text x={x} y={y + 92} fontSize="34" fontWeight="bold" className="font-mono">
        {of?.now.replace(/ .*/, '') ?? ''}
      </text>
      <text x={x} y={y + 132} fontSize="18">
        {of?.label}
      </text>
    </g>
  )
}
