/** What is edited: fields, and groups of fields one level below. */
export type Fields = object

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

const isGroup = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Lays one's own changes over what somebody else has saved meanwhile. What only they changed is theirs; what both changed stays one's
 * own and is named. base is what both began with.
 */
export function merge<T extends Fields>(base: T, mine: T, theirs: T): { merged: T; conflicts: string[] } {
  const conflicts: string[] = []
  const merged = mergeGroup(base, mine, theirs, '', conflicts) as T
  return { merged, conflicts }
}

function mergeGroup(base: Fields, mine: Fields, theirs: Fields, path: string, conflicts: string[]): Fields {
  const out: Record<string, unknown> = {}
  const [before, own, other] = [base, mine, theirs] as Record<string, unknown>[]
  for (const key of Object.keys({ ...theirs, ...mine })) {
    const [was, is, now] = [before?.[key], own?.[key], other?.[key]]
    if (isGroup(was) && isGroup(is) && isGroup(now) && path === '') {
      out[key] = mergeGroup(was, is, now, `${key}.`, conflicts)
      continue
    }
    const untouched = same(is, was)
    out[key] = untouched ? now : is
    if (!untouched && !same(now, was) && !same(now, is)) conflicts.push(path + key)
  }
  return out
}
