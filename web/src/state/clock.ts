/** What this device's clock is off by is kept, so that a line typed offline has the right moment. */
const KEPT = 'nudge.clock'
/** An answer's date has whole seconds and travels: less than this is no difference. */
const LEAST_MS = 5_000

let offset = kept()

function kept(): number {
  try {
    return Number(localStorage.getItem(KEPT)) || 0
  } catch {
    return 0
  }
}

/** Learn the difference from an answer: its `Date`, and when it was asked for. */
export function learnClock(date: string | null, askedAt: number): void {
  const said = date === null ? NaN : Date.parse(date) + 500
  if (Number.isNaN(said)) return
  const found = Math.round(said - (askedAt + Date.now()) / 2)
  const next = Math.abs(found) < LEAST_MS ? 0 : found
  if (Math.abs(next - offset) < LEAST_MS && next !== 0) return
  if (next === offset) return
  offset = next
  try {
    localStorage.setItem(KEPT, String(offset))
  } catch {
    // Storage denied: the next answer says it again.
  }
}

/** Now, by the server's clock [ms]: a tablet two days off neither ages a reading nor predates it. */
export const serverNow = () => Date.now() + offset
export const serverDate = () => new Date(serverNow())
