import { Button } from '../kit/kit'
import { say } from '../say'

interface Props {
  /** The fields that both have changed. */
  conflicts: string[]
  /** What such a field is called. */
  name: (field: string) => string
  onTheirs: () => void
}

/** Says that somebody else has changed the same, and offers theirs. */
export function Meanwhile({ conflicts, name, onTheirs }: Props) {
  if (conflicts.length === 0) return null
  const names = [...new Set(conflicts.map(name))]
  return (
    <div role="alert" className="mb-4 border-t-3 border-need pt-2 text-note">
      <p>{say.edit.somebodyElseHasChanged(names.join(', '))}</p>
      <Button kind="text" onClick={onTheirs}>
        {say.edit.discardMineTakeTheirs}
      </Button>
    </div>
  )
}
