/** A short name that none of the others has; it stays with its thing from then on. */
export function freshID(others: { id: string }[]): string {
  for (let n = others.length + 1; ; n++) if (others.every(({ id }) => id !== `n${n}`)) return `n${n}`
}
