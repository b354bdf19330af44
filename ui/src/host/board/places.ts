import { type Axis, minuteAt } from '../../ribbon/geometry'

/** Where a carried booking is held: a row of the board, and the minute it would begin at. */
export interface Held {
  row: number
  minute: number
}

/** A row's ribbon: on the screen for the pointer, and within the board for drawing. */
export interface Ground {
  screen: Pick<DOMRect, 'left' | 'top' | 'width'>
  left: number
  top: number
  width: number
  height: number
}

/** Where the rows lie, asked once when a booking is lifted: nothing has to be measured while it is carried. */
export function measured(board: HTMLElement | null): Ground[] {
  if (!board) return []
  const origin = board.getBoundingClientRect()
  return [...board.querySelectorAll<HTMLElement>('[data-row]')].map((row) => {
    const screen = row.getBoundingClientRect()
    const { width, height } = screen
    return { screen, left: screen.left - origin.left, top: screen.top - origin.top, width, height }
  })
}

const grain = 5

/** The place under a pointer that holds a booking so many minutes after its start. */
export function placeAt(at: { x: number; y: number }, grounds: Ground[], axis: Axis, grip: number): Held {
  let row = 0
  for (const [i, { screen }] of grounds.entries()) if (at.y >= screen.top) row = i
  const screen = grounds[row]?.screen
  if (!screen) return { row, minute: axis.from }
  const minute = minuteAt((at.x - screen.left) / screen.width, axis) - grip
  return { row, minute: Math.round(minute / grain) * grain }
}

/** How far, in minutes, a booking that is carried to another row may drift before another time is meant. */
const drift = 20

/** Carried to a colleague or another day, a booking keeps its time unless it is carried well away from it. */
export function steady(over: Held, from: Held): Held {
  return over.row !== from.row && Math.abs(over.minute - from.minute) <= drift
    ? { row: over.row, minute: from.minute }
    : over
}

/** How near, in minutes, an open place draws a booking to itself. */
const reach = 8

/** The open place next to where it is held, if one is near; else where it is held, within the day. */
export function nextOpen(held: Held, open: number[] = [], length: number): Held {
  let best = withinDay(held.minute, length)
  let distance = reach + 1
  for (const minute of open) {
    const away = Math.abs(minute - held.minute)
    if (away < distance) [best, distance] = [minute, away]
  }
  return { row: held.row, minute: best }
}

/** The start kept within the day, so that the meeting still begins on it. */
export function withinDay(minute: number, length: number): number {
  return Math.min(Math.max(0, 1440 - Math.min(length, 1440)), Math.max(0, minute))
}
