import type { Standing } from '../../api/types'

/** The one thing the screen offers in its accent, from the verdict's own verb; null for none. */
export type Act =
  | { kind: 'dose'; label: string }
  | { kind: 'form'; label: string; form: string }
  | { kind: 'work'; label: string; work: string }
  | { kind: 'plate'; label: string }
  | { kind: 'walk'; label: string }
  | { kind: 'keep'; label: string }
  | { kind: 'read'; label: string; point: string }
  | { kind: 'look'; label: string }
  | { kind: 'test'; label: string }
  | { kind: 'circuit'; label: string }
  | { kind: 'close'; label: string }

/** What a decision hangs on that is written down at the system, not on the visit. */
export const PLATE = 'plate'

/** Gates of the clock: however steady it looks, it still says wait. */
const CLOCK_GATES = ['run_short', 'just_changed']

export function mustWait(visit: Standing): boolean {
  return visit.assessment?.readiness.some((one) => CLOCK_GATES.includes(one.key)) ?? false
}

/** What the decision asks for, as something to touch. A closed visit asks for nothing. */
export function actOf(visit: Standing): Act | null {
  if (visit.state === 'closed') return null
  if (visit.tests_running > 0) return { kind: 'test', label: 'The test' }
  const [move] = visit.circuit?.moves ?? []
  if (visit.circuit_is_open || visit.circuit?.state === 'broken') {
    return { kind: 'circuit', label: move ? 'What comes next' : 'The circuit' }
  }
  const decision = visit.assessment?.decision
  if (visit.look && visit.look.decision !== 'leave_caps_on') {
    return { kind: 'look', label: 'What to look at' }
  }
  if (!decision) return null
  if (decision.dose !== null) {
    return { kind: 'dose', label: decision.dose.amount < 0 ? 'Take it out' : 'Give it' }
  }
  const hangs = decision.hangs_on
  if (hangs !== null) {
    if (hangs.key === PLATE) return { kind: 'plate', label: 'Open the plate' }
    if (hangs.form !== '') return { kind: 'form', label: 'Fill it in', form: hangs.form }
    if (hangs.kind === 'work')
      return { kind: 'work', label: `Done: ${lower(hangs.label)}`, work: hangs.key }
    if (hangs.key === 'walk_liquid_line') return { kind: 'walk', label: 'Start the walk' }
    const point = visit.assessment?.next_checks.find((one) => one.key === hangs.key)?.points[0]
    if (point !== undefined) return { kind: 'read', label: 'Type it in', point }
    if (hangs.kind !== 'minutes') return { kind: 'look', label: 'How to check' }
  }
  if (visit.live?.state === 'settled' && !mustWait(visit)) {
    return { kind: 'keep', label: 'Use these readings' }
  }
  if (visit.assessment?.next_checks[0]?.key === 'walk_liquid_line') {
    return { kind: 'walk', label: 'Start the walk' }
  }
  if (visit.order.here === 'close') return { kind: 'close', label: 'Close visit' }
  return hangs === null && visit.assessment && visit.assessment.next_checks.length > 0
    ? { kind: 'look', label: 'Check next' }
    : null
}

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
