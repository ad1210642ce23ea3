import { reachableActions } from '../state/keys'
import { lettersAct, setPreference, usePreferences } from '../state/preferences'
import { Button } from '../ui/Button'
import { Card } from '../ui/Card'

type Props = { open: boolean; onClose: () => void }

/** Every key that does something here, and how to call out. */
export function KeysCard({ open, onClose }: Props) {
  usePreferences() // follows the choice below
  const act = lettersAct()
  return (
    <Card open={open} onClose={onClose} title="Keys and words">
      <Button aria-pressed={!act} className="mb-3" onClick={() => setPreference('letters', !act)}>
        {act ? 'Switch single keys off' : 'Switch single keys on'}
      </Button>
      <dl className="grid grid-cols-[3.5rem_1fr] gap-y-1">
        {open &&
          reachableActions().map((action) => (
            <div key={action.key + action.label} className="contents">
              <dt>
                <kbd className="rounded border border-rule-strong px-2 font-mono">{action.key}</kbd>
              </dt>
              <dd>{action.label}</dd>
            </div>
          ))}
        <dt>
          <kbd className="rounded border border-rule-strong px-2 font-mono">Esc</kbd>
        </dt>
        <dd>Leave a field, close a card</dd>
      </dl>
      <h3 className="mt-4 mb-1">The line you type in</h3>
      <p>
        Say a point and a number, in any order: <code className="font-mono">suct 118 liq 341</code>.
        Other units go right after the number: <code className="font-mono">liq 2350kpa sl 11c</code>
        . Begin with <code className="font-mono">fix</code> to correct what stands:{' '}
        <code className="font-mono">fix ll 97</code>.
      </p>
      <p className="mt-2">
        suct, liq: pressures. sl, ll: suction and liquid line. oa: outdoor air. ra, wb: return air,
        dry and wet bulb. sa: supply air. The pad has the rest.
      </p>
    </Card>
  )
}
