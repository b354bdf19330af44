import { Button } from '../kit/kit'

/** Saving is explicit: how much is unsaved, back to how it was, save. */
export function SaveBar({
  changes,
  saving,
  onBack,
  onSave,
}: {
  changes: number
  saving: boolean
  onBack: () => void
  onSave: () => void
}) {
  if (changes === 0) return null
  return (
    <>
      <span className="text-ink-2" role="status">
        {changes} change{changes === 1 ? '' : 's'} not saved
      </span>
      <Button kind="plain" onClick={onBack}>
        Discard changes
      </Button>
      <Button onClick={onSave} disabled={saving}>
        Save changes
      </Button>
    </>
  )
}
