import { describe, expect, it } from 'vitest'
import { nextOpen, placeAt, withinDay } from './places'

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
