/** A number as it is shown: fixed decimals, a real minus sign. */
export function formatNumber(value: number, decimals: number): string {
  const text = Math.abs(value).toFixed(decimals)
  return value < 0 && Number(text) !== 0 ? `−${text}` : text
}

const DAY_MS = 86_400_000

/** A due date in words: `3 days late`, `today`, `in 2 days`. Dates are local calendar days. */
export function dueInWords(isoDate: string, now: Date): string {
  const [year = 0, month = 1, day = 1] = isoDate.split('-').map(Number)
  const due = new Date(year, month - 1, day).getTime()
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime()
  const days = Math.round((due - today) / DAY_MS)
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return '1 day late'
  return days < 0 ? `${-days} days late` : `in ${days} days`
}

/** A moment as a clock time today, else as a date. */
export function shortTime(iso: string, now: Date): string {
  const moment = new Date(iso)
  return moment.toDateString() === now.toDateString()
    ? clockTime(iso)
    : moment.toLocaleDateString([], { day: 'numeric', month: 'short', year: 'numeric' })
}

/** A moment as the clock on the wall shows it. */
export function clockTime(iso: string): string {
  return new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
}

/** Minutes between a moment and now, to the nearest, never negative. */
export function minutesSince(iso: string, now: Date): number {
  return Math.max(0, Math.round((now.getTime() - new Date(iso).getTime()) / 60_000))
}

/** A running time in words: `22 min`, `1 h 05`. */
export function inMinutes(minutes: number): string {
  return minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}

/** A typed number, with a comma or a point; null where it is none. */
export function numberIn(text: string): number | null {
  const plain = text.trim().replace(',', '.')
  const value = Number(plain)
  return plain === '' || Number.isNaN(value) ? null : value
}

/** The first letter made small, to stand inside a sentence; the rest is left alone: °F stays °F. */
export const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
