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
