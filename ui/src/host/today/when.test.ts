import { describe, expect, it } from 'vitest'
import { say, speak } from '../../say'
import { minutesUntil } from './when'

const now = new Date('2026-12-03T12:00:00Z')
const until = (time: string) => minutesUntil(now, new Date(time))

describe('how soon a meeting is', () => {
  it('is told within half a day', () => {
    expect(until('2026-12-03T12:18:00Z')).toBe(18)
    expect(until('2026-12-04T15:00:00Z')).toBe(null)
    expect(until('2026-12-03T11:00:00Z')).toBe(null)
  })

  it('is said in minutes, then in hours, in each language', async () => {
    expect([0, 1, 18, 190].map((minutes) => say.today.soon(minutes))).toEqual([
      'begins now',
      'in 1 minute',
      'in 18 minutes',
      'in 3 hours',
    ])
    await speak('de')
    expect([0, 1, 18, 190].map((minutes) => say.today.soon(minutes))).toEqual([
      'beginnt jetzt',
      'in 1 Minute',
      'in 18 Minuten',
      'in 3 Stunden',
    ])
    await speak('en')
  })
})
