import { describe, expect, it } from 'vitest'
import { change, cut, dragged, keyed, split, tidy } from './editing'
import { axisFor, box, hoursOn, minuteAt, thinned, zoomed } from './geometry'

const morning = { start: 540, end: 720 }
const afternoon = { start: 780, end: 1020 }
const none = { shift: false, alt: false }

describe('an axis', () => {
  it('shows all stretches with an hour around them, in whole hours, within the day', () => {
    expect(axisFor([{ from: 390, to: 1030 }], { from: 480, to: 1080 })).toEqual({ from: 300, to: 1140 })
    expect(axisFor([{ from: 10, to: 1440 }], { from: 480, to: 1080 })).toEqual({ from: 0, to: 1440 })
  })

  it('places stretches, cuts them at its ends and leaves out what lies beyond', () => {
    const axis = { from: 480, to: 1080 }
    expect(box({ from: 540, to: 600 }, axis)).toEqual({ left: '10%', width: '10%' })
    expect(box({ from: 0, to: 540 }, axis)).toEqual({ left: '0%', width: '10%' })
    expect(box({ from: 0, to: 480 }, axis)).toBeNull()
    expect(minuteAt(0.5, axis)).toBe(780)
    expect(hoursOn({ from: 480, to: 660 })).toEqual([480, 540, 600])
  })
})

describe('zooming', () => {
  it('keeps what is pointed at in its place, whole hours, and the day as its bounds', () => {
    const day = { from: 480, to: 1080 }
    expect(zoomed(day, -5, 780)).toEqual({ from: 660, to: 960 })
    expect(zoomed(day, -5, 480)).toEqual({ from: 480, to: 780 })
    expect(zoomed(day, -99, 780), 'four hours at least').toEqual({ from: 660, to: 900 })
    expect(zoomed(day, 99, 780)).toEqual({ from: 0, to: 1440 })
    expect(zoomed({ from: 0, to: 600 }, 2, 600)).toEqual({ from: 0, to: 720 })
  })
})

describe('editing hours', () => {
  it('draws a new interval in either direction, on the quarter hour', () => {
    expect(dragged([morning], { kind: 'draw', at: 793 }, 1012)).toEqual([morning, { start: 795, end: 1005 }])
    expect(dragged([], { kind: 'draw', at: 1012 }, 793)).toEqual([{ start: 795, end: 1005 }])
  })

  it('moves an interval whole, and never out of the day', () => {
    expect(dragged([morning, afternoon], { kind: 'move', index: 1, at: 800 }, 860)[1]).toEqual({
      start: 840,
      end: 1080,
    })
    expect(change(morning, 'move', -9999)).toEqual({ start: 0, end: 180 })
    expect(change(afternoon, 'move', 9999)).toEqual({ start: 1200, end: 1440 })
  })

  it('stretches an end down to nothing, which closes the interval', () => {
    expect(tidy(dragged([morning, afternoon], { kind: 'end', index: 0, at: 720 }, 300))).toEqual([afternoon])
    expect(change(morning, 'start', 9999)).toEqual({ start: 720, end: 720 })
  })

  it('takes a lunch out of a day, by a drag over it or around a minute', () => {
    const day = { start: 540, end: 1020 }
    expect(dragged([day], { kind: 'cut', at: 782 }, 718)).toEqual([morning, afternoon])
    expect(cut([morning, afternoon], { start: 600, end: 900 })).toEqual([
      { start: 540, end: 600 },
      { start: 900, end: 1020 },
    ])
    expect(cut([morning], { start: 0, end: 1440 })).toEqual([])
    expect(split([day], 0, 750)).toEqual([morning, afternoon])
    expect(split([day], 0, 545), 'at its edge nothing is left before').toEqual([{ start: 600, end: 1020 }])
    expect(split([{ start: 540, end: 600 }], 0, 570), 'an hour alone stays').toEqual([{ start: 540, end: 600 }])
  })

  it('joins what touches or overlaps, in order', () => {
    expect(tidy([afternoon, { start: 720, end: 780 }, morning])).toEqual([{ start: 540, end: 1020 }])
    expect(tidy([afternoon, morning])).toEqual([morning, afternoon])
  })

  it('does the same by keys', () => {
    expect(keyed([morning], 0, 'ArrowRight', none)).toEqual([{ start: 555, end: 735 }])
    expect(keyed([morning], 0, 'ArrowLeft', { shift: true, alt: false })).toEqual([{ start: 540, end: 705 }])
    expect(keyed([morning], 0, 'ArrowLeft', { shift: false, alt: true })).toEqual([{ start: 525, end: 720 }])
    expect(keyed([morning, afternoon], 0, 'Delete', none)).toEqual([afternoon])
    expect(keyed([morning], 0, 'x', none), 'an hour out of its middle').toEqual([
      { start: 540, end: 600 },
      { start: 660, end: 720 },
    ])
    expect(keyed([morning], 0, 'y', none)).toBeNull()
  })
})

it('hour labels thin out before they touch', () => {
  const day = { from: 0, to: 1440 }
  expect(thinned(day, 1440, 30, 60)).toBe(60)
  expect(thinned(day, 400, 30, 60)).toBe(120)
  expect(thinned(day, 100, 30, 60)).toBe(720)
  expect(thinned(day, 1440, 30, 180), 'but no denser than asked for').toBe(180)
  expect(thinned(day, 0, 30, 60), 'as long as the length isn’t known').toBe(60)
})
