import { useParams } from 'react-router'
import { useVisit, useVocabulary } from '../../api/queries'
import { LoadState } from '../../ui/LoadState'
import { Workspace } from './Workspace'

/** One visit, once it and the words it is told in are there. */
export function VisitScreen() {
  const { visitId = '' } = useParams()
  const visit = useVisit(visitId)
  const vocabulary = useVocabulary()
  return (
    <LoadState of={visit}>
      {(ready) => (
        <LoadState of={vocabulary}>
          {(words) => <Workspace key={ready.id} visit={ready} vocabulary={words} />}
        </LoadState>
      )}
    </LoadState>
  )
}
