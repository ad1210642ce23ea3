import { useChanges } from '../../api/queries'
import type { Visit } from '../../api/types'
import { Panel } from '../../ui/Panel'
import { LoadState } from '../../ui/LoadState'

type Props = { visit: Visit; onClose: () => void }

/** What would put another suspect in front: a look that comes out otherwise, a reading that is off. */
export function ChangeOfMind({ visit, onClose }: Props) {
  const changes = useChanges(visit.id)
  const leader = visit.assessment?.suspects[0]
  return (
    <Panel open onClose={onClose} title="What would change the verdict">
      {visit.assessment?.diagnosis && <p>{visit.assessment.diagnosis.sentence}</p>}
      <LoadState of={changes}>
        {({ changes: rows }) =>
          rows.length === 0 ? (
            <p className="py-3">
              Nothing that Nudge knows to ask would put another suspect before
              {leader ? ` “${leader.label.toLowerCase()}”` : ' this one'}.
            </p>
          ) : (
            <table className="mt-2 w-full">
              <thead className="text-left text-soft">
                <tr>
                  <th className="font-normal">If it were so</th>
                  <th className="font-normal">this would lead</th>
                  <th className="text-right font-normal">how likely then</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <tr key={row.what} className="border-t border-rule align-top">
                    <th scope="row" className="py-2 pr-3 text-left font-normal">
                      {row.what}
                    </th>
                    <td className="py-2 pr-3 font-bold">{row.leads_label}</td>
                    <td className="py-2 text-right">{Math.round(row.belief * 100)} %</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </LoadState>
    </Panel>
  )
}
