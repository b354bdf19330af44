/** Where things lie on a ruled ribbon. Positions are wall-clock minutes past midnight. */

export interface Axis {
  from: number
  to: number
}

export interface Stretch {
  from: number
  to: number
}

/** The place of a minute on the axis, as a share of its length from 0 to 1; outside it, at its end. */
export function place(minute: number, axis: Axis): number {
  const share = (minute - axis.from) / (axis.to - axis.from)
  return Math.min(1, Math.max(0, share))
}

/** Left edge and width of a stretch in percent, or null if none of it lies on the axis. */
export function box(stretch: Stretch, axis: Axis): { left: string; width: string } | null {
  const left = place(stretch.from, axis)
  const width = place(stretch.to, axis) - left
  if (width <= 0) return null
  return { left: `${left * 100}%`, width: `${width * 100}%` }
}

/** The full hours that a ruler shows, from the first on the axis to the last before its end. */
export function hoursOn(axis: Axis): number[] {
  const hours: number[] = []
  for (let minute = Math.ceil(axis.from / 60) * 60; minute < axis.to; minute += 60) hours.push(minute)
  return hours
}

/** Every how many minutes a ruler is labelled, so that labels so many pixels wide don't touch on an axis so long; at least the least. */
export function thinned(axis: Axis, length: number, label: number, least: number): number {
  const steps = [60, 120, 180, 240, 360, 720]
  const fits = (step: number) => length === 0 || (length * step) / (axis.to - axis.from) >= label
  return Math.max(least, steps.find(fits) ?? 720)
}

/** An axis of whole hours that shows all of the stretches with an hour around them, and at least the least. */
export function axisFor(stretches: Stretch[], least: Axis): Axis {
  let { from, to } = least
  for (const s of stretches) {
    from = Math.min(from, s.from - 60)
    to = Math.max(to, s.to + 60)
  }
  return { from: Math.max(0, Math.floor(from / 60) * 60), to: Math.min(1440, Math.ceil(to / 60) * 60) }
}

/** The shortest axis, in minutes. */
const leastAxis = 4 * 60

/** The axis made so many hours longer or shorter around a minute, in whole hours, within the day. */
export function zoomed(axis: Axis, hours: number, around: number): Axis {
  const length = Math.min(1440, Math.max(leastAxis, axis.to - axis.from + 60 * hours))
  const share = place(around, axis)
  const from = Math.round((around - share * length) / 60) * 60
  const start = Math.min(Math.max(0, from), 1440 - length)
  return { from: start, to: start + length }
}

/** The minute at a share of the axis. */
export function minuteAt(share: number, axis: Axis): number {
  return axis.from + Math.min(1, Math.max(0, share)) * (axis.to - axis.from)
}
