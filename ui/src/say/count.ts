/** "1 start", "3 starts". */
export function count(n: number, one: string, several: string): string {
  return `${n} ${n === 1 ? one : several}`
}
