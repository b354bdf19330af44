import type { Schemas } from '../../api/client'
import { changedFields } from '../../edit/changes'
import { say } from '../../say'

type Rules = Partial<Schemas['TypeRules']>

/** Which rules differ, by their groups; what is in no group is of the length, or the hours of a type's own. */
export function changedRules(before: Rules, after: Rules, groups: Schemas['WorkspaceView']['groups']): string[] {
  const nameOf = (field: string) =>
    say.rules.groups[groups.find(({ fields }) => fields?.includes(field))?.name ?? ''] ??
    (field === 'hours' ? say.rules.hours : say.rules.length)
  const fields = changedFields(before, after).filter((field) => field !== 'follows')
  return [...new Set(fields.map(nameOf))]
}
