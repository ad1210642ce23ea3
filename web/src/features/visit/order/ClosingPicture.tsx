import type { Choice, Stage } from '../../../api/types'
import { Machine, type PartState } from '../../../drawing/Machine'

type Step = Stage['steps'][number]

const WORDS: Record<PartState, string> = {
  unseen: 'still open',
  right: 'done',
  found: 'must not stay open',
}

type Props = { steps: Step[]; parts: Choice[]; chosen: string; onChoose: (part: string) => void }

/** What is left before one drives off, on the machine itself: touch a part for its steps. */
export function ClosingPicture({ steps, parts, chosen, onChoose }: Props) {
  const states = statesOf(steps)
  const left = steps.filter((step) => step.state === 'open')
  return (
    <div className="mt-1" data-closing-left={left.length}>
      <Machine
        label="What is left, by the parts of the machine"
        parts={parts}
        states={states}
        words={WORDS}
        chosen={chosen}
        onChoose={onChoose}
      />
      <p className="text-[0.92rem] text-soft">
        {left.length === 0
          ? 'Nothing is left open.'
          : chosen === ''
            ? `${left.length} left. What is marked ! must not stay open. Touch a part for its steps alone.`
            : 'Touch it again for all of them.'}
      </p>
    </div>
  )
}

/** A part is done when all its steps are; what must not stay open outweighs what may. */
function statesOf(steps: Step[]): Partial<Record<string, PartState>> {
  const states: Partial<Record<string, PartState>> = {}
  for (const { part, state, blocks } of steps) {
    if (part === '') continue
    const here: PartState = state !== 'open' ? 'right' : blocks === 'closing' ? 'found' : 'unseen'
    const before = states[part] ?? 'right'
    states[part] = here === 'right' ? before : before === 'found' ? before : here
  }
  return states
}
