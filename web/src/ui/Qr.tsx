/** A QR code as it was laid out: dark squares on light, whatever the theme, or no camera reads it. */
export function Qr({ of, label }: { of: { size: number; path: string }; label: string }) {
  return (
    <svg
      viewBox={`0 0 ${of.size} ${of.size}`}
      role="img"
      aria-label={label}
      className="bg-white mt-2 h-44 w-44"
    >
      <path d={of.path} fill="black" />
    </svg>
  )
}
