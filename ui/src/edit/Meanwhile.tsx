import { Button } from '../kit/kit'
import { inWords } from './merge'

/** Says that somebody else has changed the same, and offers theirs. */
export function Meanwhile({ conflicts, onTheirs }: { conflicts: string[]; onTheirs: () => void }) {
  if (conflicts.length === 0) return null
  return (
    <div role="alert" className="mb-4 border-t-3 border-need pt-2 text-note">
      <p>
        Somebody else has changed this meanwhile. What you had not touched is theirs now; of what you both changed (
        {conflicts.map(inWords).join(', ')}), yours stands here. Saving puts it over theirs.
      </p>
      <Button kind="text" onClick={onTheirs}>
        Discard mine, take theirs
      </Button>
    </div>
  )
}
