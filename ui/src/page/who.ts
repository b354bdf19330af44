import type { Texts } from './texts'

interface Hosts {
  hosts: string[]
  oneOfUs: boolean
  /** In English, for whom there is no name. */
  host: string
}

/** Whom a client meets, in the page's language: "Torvald Brekke and a colleague". */
export function whoIs({ hosts, oneOfUs, host }: Hosts, t: Texts): string {
  if (hosts.length === 0) return oneOfUs ? t.oneOfUs : host
  const all = oneOfUs ? [...hosts, t.andOneOfUs] : hosts
  return all.length === 1 ? all.join() : `${all.slice(0, -1).join(', ')} ${t.and} ${all.at(-1)}`
}
