/** Changing the open hours of one day on its ribbon: pure functions, for pointer and keyboard alike. */

export interface Interval {
  start: number
  end: number
}

const day = 1440
const hour = 60

/** Changes snap to this many minutes. */
const grain = 15

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

/** What a drag does: draw a new interval, take a stretch out, move an interval, or stretch one of its ends. */
export type Grip = { kind: 'draw' | 'cut'; at: number } | { kind: 'move' | 'start' | 'end'; index: number; at: number }

/** The intervals while the pointer, gone down at grip.at, is at a minute. They are not tidied yet, so that what is
 *  dragged keeps its index. */
export function dragged(intervals: Interval[], grip: Grip, minute: number): Interval[] {
  if (!('index' in grip)) {
    const stretch = { start: snap(Math.min(grip.at, minute)), end: snap(Math.max(grip.at, minute)) }
    return grip.kind === 'draw' ? [...intervals, stretch] : cut(intervals, stretch)
  }
  return intervals.map((interval, index) =>
    index === grip.index ? change(interval, grip.kind, minute - grip.at) : interval,
  )
}

/** The intervals without a stretch: a lunch taken out of a day. */
export function cut(intervals: Interval[], { start, end }: Interval): Interval[] {
  return intervals
    .flatMap((i) => [
      { start: i.start, end: Math.min(i.end, Math.max(start, i.start)) },
      { start: Math.max(i.start, Math.min(end, i.end)), end: i.end },
    ])
    .filter((i) => i.end > i.start)
}

/** The intervals without the hour around a minute; what is as short as that is left whole. */
export function split(intervals: Interval[], index: number, minute: number): Interval[] {
  const around = intervals[index]
  if (!around || around.end - around.start <= hour) return intervals
  const start = Math.min(Math.max(snap(minute - hour / 2), around.start), around.end - hour)
  return cut(intervals, { start, end: start + hour })
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
 *  its start, Delete takes it away, x takes an hour out of its middle. Null if the key means nothing here. */
export function keyed(
  intervals: Interval[],
  index: number,
  key: string,
  held: { shift: boolean; alt: boolean },
): Interval[] | null {
  const by = key === 'ArrowRight' ? grain : key === 'ArrowLeft' ? -grain : 0
  const at = intervals[index]
  if (key === 'x' && at) return split(intervals, index, (at.start + at.end) / 2)
  if (key === 'Delete' || key === 'Backspace') return intervals.filter((_, i) => i !== index)
  if (by === 0) return null
  const kind = held.shift ? 'end' : held.alt ? 'start' : 'move'
  return intervals.map((interval, i) => (i === index ? change(interval, kind, by) : interval))
}
