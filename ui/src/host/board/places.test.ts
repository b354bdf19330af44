import { describe, expect, it } from 'vitest'
import { nextOpen, placeAt, steady, withinDay } from './places'

const axis = { from: 480, to: 1080 }
const ground = (top: number) => ({ screen: { left: 100, top, width: 600 }, left: 100, top, width: 600, height: 40 })

describe('a booking carried over the board', () => {
  it('lies where it is held, not where the pointer is', () => {
    expect(placeAt({ x: 250, y: 62 }, [ground(0), ground(60)], axis, 20)).toEqual({ row: 1, minute: 610 })
  })
  it('is drawn to an open place nearby only', () => {
    expect(nextOpen({ row: 0, minute: 610 }, [540, 615, 660], 30)).toEqual({ row: 0, minute: 615 })
    expect(nextOpen({ row: 0, minute: 630 }, [540, 615, 660], 30)).toEqual({ row: 0, minute: 630 })
  })
  it('stays within the day', () => {
    expect(withinDay(1430, 50)).toBe(1390)
    expect(withinDay(-10, 50)).toBe(0)
  })
})

describe('a booking that is carried to another row', () => {
  it('keeps its time unless it is carried well away from it', () => {
    const from = { row: 0, minute: 840 }
    expect(steady({ row: 1, minute: 855 }, from)).toEqual({ row: 1, minute: 840 })
    expect(steady({ row: 1, minute: 900 }, from)).toEqual({ row: 1, minute: 900 })
    expect(steady({ row: 0, minute: 855 }, from)).toEqual({ row: 0, minute: 855 })
  })
})
