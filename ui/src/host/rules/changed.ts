import type { Schemas } from '../../api/client'
import { changedFields } from '../../edit/changes'
import { say } from '../../say'

type Rules = Partial<Schemas['TypeRules']>
type Groups = Schemas['WorkspaceView']['groups']

/** Which rules differ, by their groups. */
export function changedRules(before: Rules, after: Rules, groups: Groups): string[] {
  const fields = changedFields(before, after).filter((field) => field !== 'follows')
  return [...new Set(fields.map((field) => ruleName(field, groups)))]
}

/** The group that a rule belongs to; what is in none is of the length, or the hours of a type's own. */
export function ruleName(field: string, groups: Groups): string {
  const group = groups.find(({ fields }) => fields?.includes(field))
  return say.rules.groups[group?.name ?? ''] ?? (field === 'hours' ? say.rules.hours : say.rules.length)
}
