import { Toolbar } from 'radix-ui'
import type { Order, Stage } from '../../../api/types'

type Props = { order: Order; onStage: (key: string) => void }

const MARK: Record<Stage['state'], string> = {
  done: '✓',
  here: '▸',
  open: '',
  blocked: '▮',
  if_needed: '·',
}
const WORD: Record<Stage['state'], string> = {
  done: 'done',
  here: 'you are here',
  open: 'open',
  blocked: 'blocked',
  if_needed: 'only if needed',
}

/** The visit in order: where you are, what is open, what is blocked. Free to jump. */
export function OrderRail({ order, onStage }: Props) {
  return (
    <nav
      aria-label="Order of work"
      data-here={order.here}
      className="border-t border-rule max-lg:hidden"
    >
      <Toolbar.Root aria-label="Stages" className="flex overflow-x-auto">
        {order.stages.map((stage) => (
          <Toolbar.Button
            key={stage.key}
            data-stage={stage.key}
            data-state={stage.state}
            onClick={() => onStage(stage.key)}
            className="relative flex min-h-11 flex-auto shrink-0 items-center gap-1.5 border-t-4 border-transparent px-1 text-left text-[0.88rem] leading-tight whitespace-nowrap data-[state=done]:text-soft data-[state=here]:border-ink data-[state=here]:font-bold data-[state=if_needed]:text-soft"
          >
            <span aria-hidden className="w-3 shrink-0 text-center">
              {MARK[stage.state]}
            </span>
            <span>
              {stage.label}
              <span className="sr-only">, {WORD[stage.state]}, open steps: </span>
              {stage.open_steps > 0 && stage.state !== 'if_needed' && (
                <span className="ml-1.5 font-normal text-soft">{stage.open_steps}</span>
              )}
            </span>
          </Toolbar.Button>
        ))}
      </Toolbar.Root>
    </nav>
  )
}

export function openWords(stage: Stage): string {
  if (stage.state === 'blocked') return 'blocked'
  if (stage.open_steps === 0 || stage.state === 'if_needed') return WORD[stage.state]
  return stage.open_steps === 1 ? '1 step open' : `${stage.open_steps} steps open`
}
