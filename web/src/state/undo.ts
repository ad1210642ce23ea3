import type { Units } from '../api/types'
import { changeVisit, writeOn } from './outbox'
import { forget, UNDONE_BY, type Done } from './toasts'

/** Take back one thing this device wrote, as its kind is taken back. */
export function undo(done: Done, units: Units): void {
  const by = UNDONE_BY[done.what]
  forget(done.id)
  if (by === 'withdrawals') writeOn(done.visitId, 'withdrawals', { of: done.id }, units)
  else if (by === 'dose-corrections') {
    writeOn(done.visitId, 'dose-corrections', { dose_id: done.id, amount: 0 }, units)
  } else if (by === 'ticks') {
    const { step } = done.body as { step: string }
    writeOn(done.visitId, 'ticks', { step, state: '', reason: '' }, units)
  } else if (by === 'open again') changeVisit(done.visitId, { closed: false }, units)
}
