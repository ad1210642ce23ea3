import type { Heat } from '../../api/types'

type Bars = NonNullable<Heat['strips']>
type Bar = Bars['feed']

const [WIDTH, BAR, GAP] = [400, 26, 8]

/** The strips' circuits end to end under their feed: what is missing, or counted twice, shows. */
export function StripBars({ of }: { of: Bars }) {
  const words = [of.feed, ...of.circuits].map((bar) => `${bar.label} ${bar.text}`).join(', ')
  return (
    <figure className="mt-3" data-strips={of.adds_up}>
      <svg
        viewBox={`0 0 ${WIDTH} ${2 * BAR + GAP + 2}`}
        role="img"
        aria-label={`Strips against their feed: ${words}.`}
        className="w-full"
      >
        <Piece of={of.feed} y={1} hue="var(--ink)" isFull />
        {of.circuits.map((bar, n) => (
          <Piece key={bar.label} of={bar} y={BAR + GAP} hue="var(--ink)" name={`${n + 1}: `} />
        ))}
        <path
          d={`M${of.feed.share * WIDTH - 1} 0V${2 * BAR + GAP + 2}`}
          stroke="var(--accent)"
          strokeWidth="3"
          strokeDasharray={of.adds_up ? '' : '5 4'}
        />
      </svg>
      <figcaption className={`mt-1 ${of.adds_up ? '' : 'border-l-4 border-rule-strong pl-2'}`}>
        {of.said}
      </figcaption>
    </figure>
  )
}

function Piece(props: { of: Bar; y: number; hue: string; name?: string; isFull?: boolean }) {
  const { of, y, hue, name = '', isFull = false } = props
  const x = of.begins * WIDTH
  const wide = of.share * WIDTH
  return (
    <g>
      <rect
        x={x + 1}
        y={y}
        width={Math.max(wide - 2, 1)}
        height={BAR}
        fill={isFull ? hue : 'var(--sheet)'}
        stroke={hue}
        strokeWidth="2"
      />
      <text
        x={x + wide / 2}
        y={y + BAR / 2 + 5}
        textAnchor="middle"
        fontSize="14"
        fontWeight="bold"
        fill={isFull ? 'var(--sheet)' : 'var(--ink)'}
      >
        {isFull ? `${of.label} ${of.text}` : name + of.text}
      </text>
    </g>
  )
}
