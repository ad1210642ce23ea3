import type { TimedTest } from '../../../api/types'

/** How long a test has stood: `12:05`, over an hour `1:12:05`. */
export function stood(test: Pick<TimedTest, 'began_at' | 'ended_at'>, now: number): string {
  const end = test.ended_at === null ? now : Date.parse(test.ended_at)
  const seconds = Math.max(0, Math.floor((end - Date.parse(test.began_at)) / 1000))
  const [hours, minutes, rest] = [
    Math.floor(seconds / 3600),
    Math.floor(seconds / 60) % 60,
    seconds % 60,
  ]
  const two = (n: number) => String(n).padStart(2, '0')
  return hours > 0 ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`
}
