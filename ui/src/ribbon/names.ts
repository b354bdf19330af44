import { type Axis, place, type Stretch } from './geometry'

/** Which of the lanes a stretch has: those that overlap share the height of the ribbon. */
export interface Lane {
  lane: number
  lanes: number
}

/** Where the name of a mark is drawn: in it, on the free ribbon beside it, or under the ribbon, by a number. */
export interface Placed extends Lane {
  name: 'inside' | 'beside' | 'key'
  key: number
}

/** Overlapping stretches get lanes of their own, the earlier ones above. In the order given. */
export function lanesOf(stretches: Stretch[]): Lane[] {
  const order = stretches.map((_, i) => i).sort((a, b) => (stretches[a]?.from ?? 0) - (stretches[b]?.from ?? 0))
  const out: Lane[] = stretches.map(() => ({ lane: 0, lanes: 1 }))
  let cluster: number[] = []
  let ends: number[] = [] // of each lane
  const close = () => {
    for (const i of cluster) out[i] = { lane: out[i]?.lane ?? 0, lanes: ends.length }
    cluster = []
    ends = []
  }
  for (const i of order) {
    const { from, to } = stretches[i] ?? { from: 0, to: 0 }
    if (cluster.length > 0 && ends.every((end) => end <= from)) close()
    const free = ends.findIndex((end) => end <= from)
    const lane = free < 0 ? ends.length : free
    ends[lane] = to
    out[i] = { lane, lanes: 1 }
    cluster.push(i)
  }
  close()
  return out
}

/** Top and height of a lane, in percent. */
export function laneBox({ lane, lanes }: Lane): { top: string; height: string } {
  return { top: `${(lane / lanes) * 100}%`, height: `${100 / lanes}%` }
}

/** About so many pixels a name takes at 12 px, semibold, with the room around it. */
export function nameWidth(name: string): number {
  let width = 11
  for (const letter of name) width += (letter.codePointAt(0) ?? 0) > 0x2e80 ? 12 : 6.9
  return width
}

/** Places the names of marks on a ribbon so many pixels wide (0: not known yet), so that each can be read. */
export function placeNames(
  marks: (Stretch & { label?: string })[],
  inTheWay: Stretch[],
  axis: Axis,
  width: number,
): Placed[] {
  const lanes = lanesOf(marks)
  const at = (minute: number) => place(minute, axis) * width
  let key = 0
  return marks.map(({ from, to, label = '' }, i) => {
    const own = lanes[i] ?? { lane: 0, lanes: 1 }
    const needed = nameWidth(label)
    if (width === 0 || label === '' || at(to) - at(from) >= needed) return { ...own, name: 'inside', key: 0 }
    const blocked = [
      ...inTheWay,
      ...marks.filter((_, k) => k !== i && sideBySide(own, lanes[k] ?? { lane: 0, lanes: 1 })),
    ]
    const free = Math.min(width, ...blocked.filter((other) => other.to > to).map((other) => at(other.from)))
    if (free - at(to) >= needed) return { ...own, name: 'beside', key: 0 }
    key++
    return { ...own, name: 'key', key }
  })
}

/** Whether two lanes share some of the height. */
function sideBySide(a: Lane, b: Lane): boolean {
  return a.lane / a.lanes < (b.lane + 1) / b.lanes && b.lane / b.lanes < (a.lane + 1) / a.lanes
}
