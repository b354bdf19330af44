/** Changing the open hours of one day on its ribbon: pure functions, for pointer and keyboard alike. */

export interface Interval {
  start: number
  end: number
}

const day = 1440

/** Changes snap to this many minutes. */
export const grain = 15

export function snap(minute: number): number {
  return Math.min(day, Math.max(0, Math.round(minute / grain) * grain))
}

/** In order, with those that touch or overlap joined and empty ones left out. */
export function tidy(intervals: Interval[]): Interval[] {
  const out: Interval[] = []
  for (const next of [...intervals].filter((i) => i.end > i.start).sort((a, b) => a.start - b.start)) {
    const last = out.at(-1)
    if (last && next.start <= last.end) last.end = Math.max(last.end, next.end)
    else out.push({ ...next })
  }
  return out
}

/** What a drag does: draw a new interval, move one, or stretch one of its ends. */
export type Grip = { kind: 'draw'; at: number } | { kind: 'move' | 'start' | 'end'; index: number; at: number }

/** The intervals while the pointer, gone down at grip.at, is at a minute. They are not tidied yet, so that what is
 *  dragged keeps its index. */
export function dragged(intervals: Interval[], grip: Grip, minute: number): Interval[] {
  if (grip.kind === 'draw') {
    const [start, end] = [snap(Math.min(grip.at, minute)), snap(Math.max(grip.at, minute))]
    return [...intervals, { start, end }]
  }
  return intervals.map((interval, index) =>
    index === grip.index ? change(interval, grip.kind, minute - grip.at) : interval,
  )
}

/** One interval moved or stretched by so many minutes; it stays within the day it starts on. */
export function change(interval: Interval, kind: 'move' | 'start' | 'end', by: number): Interval {
  const { start, end } = interval
  switch (kind) {
    case 'move': {
      const length = end - start
      const moved = Math.min(Math.max(0, snap(start + by)), Math.max(0, day - length))
      return { start: moved, end: moved + length }
    }
    case 'start':
      return { start: Math.min(snap(start + by), end), end }
    case 'end':
      return { start, end: Math.max(snap(end + by), start) }
  }
}

/** What a key does to the interval at an index: arrows move it, Shift with an arrow stretches its end, Alt with an arrow
 *  its start, Delete takes it away. Null if the key means nothing here. */
export function keyed(
  intervals: Interval[],
  index: number,
  key: string,
  held: { shift: boolean; alt: boolean },
): Interval[] | null {
  const by = key === 'ArrowRight' ? grain : key === 'ArrowLeft' ? -grain : 0
  if (key === 'Delete' || key === 'Backspace') return intervals.filter((_, i) => i !== index)
  if (by === 0) return null
  const kind = held.shift ? 'end' : held.alt ? 'start' : 'move'
  return intervals.map((interval, i) => (i === index ? change(interval, kind, by) : interval))
}
