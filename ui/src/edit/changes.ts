/** In which fields two things differ. */
export function changedFields<T extends object>(before: T, after: T): string[] {
  const keys = Object.keys({ ...before, ...after }) as (keyof T & string)[]
  return keys.filter((key) => JSON.stringify(before[key]) !== JSON.stringify(after[key]))
}

/** In how many. */
export function countFields<T extends object>(before: T, after: T): number {
  return changedFields(before, after).length
}

/** How many fields of an edited thing differ, those of its rules counted one by one. */
export function countChanges<T extends { rules: object }>(before: T, after: T): number {
  const { rules: rulesBefore, ...restBefore } = before
  const { rules: rulesAfter, ...restAfter } = after
  return countFields<object>(restBefore, restAfter) + countFields<object>(rulesBefore, rulesAfter)
}

/** What was changed, in words by field: a figure with what it was and is, anything else by its name; fields of one name once. */
export function namedChanges<T extends object>(
  before: T,
  after: T,
  words: Partial<Record<keyof T & string, string>>,
): string[] {
  const named = (changedFields(before, after) as (keyof T & string)[]).map((field) => {
    const [was, is] = [before[field], after[field]]
    const figures = typeof was === 'number' && typeof is === 'number' ? ` ${was} → ${is}` : ''
    return `${words[field] ?? field}${figures}`
  })
  return [...new Set(named)]
}
