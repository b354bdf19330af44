import { Button } from '../kit/kit'
import { say } from '../say'
import { inWords } from './merge'

/** Says that somebody else has changed the same, and offers theirs. */
export function Meanwhile({ conflicts, onTheirs }: { conflicts: string[]; onTheirs: () => void }) {
  if (conflicts.length === 0) return null
  return (
    <div role="alert" className="mb-4 border-t-3 border-need pt-2 text-note">
      <p>{say.edit.somebodyElseHasChanged(conflicts.map(inWords).join(', '))}</p>
      <Button kind="text" onClick={onTheirs}>
        {say.edit.discardMineTakeTheirs}
      </Button>
    </div>
  )
}
