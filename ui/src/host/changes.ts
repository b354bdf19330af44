/** How many fields of an edited thing differ, those of its rules counted one by one. */
export function countChanges<T extends { rules: object }>(before: T, after: T): number {
  const differ = (a: object, b: object) =>
    Object.keys({ ...a, ...b }).filter(
      (key) => key !== 'rules' && JSON.stringify(a[key as never]) !== JSON.stringify(b[key as never]),
    ).length
  return differ(before, after) + differ(before.rules, after.rules)
}
