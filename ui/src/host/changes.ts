/** How many fields of an edited thing differ, those of its rules counted one by one. */
export function countChanges<T extends { rules: object }>(before: T, after: T): number {
  const differ = (a: object, b: object) =>
    Object.keys({ ...a, ...b }).filter((key) => JSON.stringify(a[key as never]) !== JSON.stringify(b[key as never]))
      .length
  const { rules: rulesBefore, ...restBefore } = before
  const { rules: rulesAfter, ...restAfter } = after
  return differ(restBefore, restAfter) + differ(rulesBefore, rulesAfter)
}
