/** How many fields of two things differ. */
export function countFields<T extends object>(before: T, after: T): number {
  const keys = Object.keys({ ...before, ...after }) as (keyof T)[]
  return keys.filter((key) => JSON.stringify(before[key]) !== JSON.stringify(after[key])).length
}

/** How many fields of an edited thing differ, those of its rules counted one by one. */
export function countChanges<T extends { rules: object }>(before: T, after: T): number {
  const { rules: rulesBefore, ...restBefore } = before
  const { rules: rulesAfter, ...restAfter } = after
  return countFields<object>(restBefore, restAfter) + countFields<object>(rulesBefore, rulesAfter)
}
