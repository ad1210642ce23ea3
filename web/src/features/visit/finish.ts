import type { Standing, Units } from '../../api/types'
import { changeVisit, writeOn } from '../../state/outbox'

/** Close it, or, where something is still open that can hurt, show that first; or open it again. */
export function finish(visit: Standing, units: Units, show: () => void): void {
  if (visit.state === 'closed') changeVisit(visit.id, { closed: false }, units)
  else if (visit.order.dangers.length > 0) show()
  else writeOn(visit.id, 'closings', {}, units)
}
