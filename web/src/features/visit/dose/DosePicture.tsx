type Props = {
  removes: boolean
  /** A blend leaves its cylinder as liquid: it stands on its head. */
  isLiquid: boolean
  bursts: number
  /** How much of what was advised has gone. */
  share: number
}

/** Cylinder, hose and system; every burst a drop that fills as it goes. */
export function DosePicture({ removes, isLiquid, bursts, share }: Props) {
  const drops = Array.from({ length: Math.min(bursts, 6) }, (_, n) => n)
  const gone = share * bursts
  const line = {
    fill: 'none',
    stroke: 'var(--ink)',
    strokeWidth: 2.5,
    strokeLinejoin: 'round',
  } as const
  const isOver = share > 1.02
  return (
    <svg viewBox="0 0 336 92" aria-hidden className="mt-2 w-full">
      <g transform={isLiquid && !removes ? 'rotate(180 34 46)' : undefined}>
        <path d="M14 84V34q0-14 20-14t20 14v50z" {...line} />
        <path d="M34 20v-8M26 12h16" {...line} />
        <path d="M14 60q10-5 20 0t20 0v24h-40z" fill="var(--rule)" stroke="none" />
      </g>
      <path
        d={isLiquid && !removes ? 'M34 84q0 6 30 0T96 46H268' : 'M34 10q40-12 62 36H268'}
        {...line}
        stroke="var(--rule-strong)"
      />
      <path d="M268 22V88" stroke="var(--low)" strokeWidth="9" fill="none" />
      <path d="M262 46h-10v-8h10M262 46v8h-10v-8" {...line} />
      <text x="280" y="50" fontSize="15" className="fill-ink">
        suction
      </text>
      {drops.map((n) => {
        const x = (removes ? 230 - (130 * n) / drops.length : 112 + (130 * n) / drops.length) + 6
        const filled = Math.min(Math.max(gone - n, 0), 1)
        return (
          <g key={n} data-drop={filled >= 0.98 ? 'in' : filled > 0 ? 'going' : 'to come'}>
            <clipPath id={`drop-${n}`}>
              <rect x={x - 12} y={52 + 26 * (1 - filled)} width="24" height={26 * filled + 2} />
            </clipPath>
            <path d={drop(x)} fill="var(--ink)" clipPath={`url(#drop-${n})`} />
            <path d={drop(x)} {...line} strokeWidth="2" />
          </g>
        )
      })}
      {isOver && (
        <text x="112" y="34" fontSize="15" fontWeight="700" className="fill-ink">
          more than advised
        </text>
      )}
    </svg>
  )
}

const drop = (x: number) => `M${x} 54q9 11 9 16a9 9 0 0 1-18 0q0-5 9-16z`
