// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { weekOf } from '../time/time'
import { DayTimes } from './DayTimes'
import { lookAt } from './open'

beforeEach(() => {
  vi.setSystemTime('2026-10-20T08:00:00Z')
})

afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

function show(starts: string[], date: string, zone: string, hostZone: string, next?: string, until?: string) {
  const more = { ...(next ? { next } : {}), ...(until ? { until } : {}) }
  const open = { now: '2026-10-20T08:00:00Z', earliest: '2026-10-20T08:00:00Z', starts, ...more }
  return showOpen(open, date, zone, hostZone)
}

function showOpen(open: Schemas['OpenTimes'], date: string, zone: string, hostZone = zone) {
  const onChoose = vi.fn()
  const onDate = vi.fn()
  render(
    <DayTimes
      look={lookAt(open, weekOf(date, 1), 1, zone)}
      waits
      date={date}
      zone={zone}
      hostZone={hostZone}
      ownClock
      minutes={30}
      chosen={null}
      busy={null}
      onChoose={onChoose}
      onDate={onDate}
    />,
  )
  return { onChoose, onDate }
}

describe("a day's times", () => {
  it("stand by part of the day, with the host's clock where it differs", () => {
    const { onChoose } = show(
      ['2026-10-21T14:00:00Z', '2026-10-21T21:30:00Z'],
      '2026-10-21',
      'America/Halifax',
      'Europe/Lisbon',
    )
    expect(screen.getAllByRole('region').map((r) => r.getAttribute('aria-label'))).toEqual(['Morning', 'Evening'])
    fireEvent.click(screen.getByRole('button', { name: '11:00, 15:00 in Lisbon' }))
    expect(onChoose).toHaveBeenCalledWith(new Date('2026-10-21T14:00:00Z'))
  })

  it('that are full can be waited for, also where nothing else is open', () => {
    const full = [
      { start: '2026-10-21T14:00:00Z', waiting: 2 },
      { start: '2026-10-22T14:00:00Z', waiting: 0 },
    ]
    const now = '2026-10-20T08:00:00Z'
    const { onChoose } = showOpen({ now, earliest: now, starts: [], full }, '2026-10-21', 'UTC')
    const inList = screen.getByRole('region', { name: 'Full times' })
    expect(inList.querySelectorAll('button')).toHaveLength(1)
    fireEvent.click(screen.getByRole('button', { name: /14:00.*full, 2 waiting.*Join the waiting list/ }))
    expect(onChoose).toHaveBeenCalledWith(new Date('2026-10-21T14:00:00Z'))
  })

  it('tell the two ones of an autumn night apart', () => {
    show(['2026-10-25T00:00:00Z', '2026-10-25T01:00:00Z'], '2026-10-25', 'Europe/Lisbon', 'Europe/Lisbon')
    expect(screen.getAllByRole('button').map((b) => b.getAttribute('aria-label'))).toEqual(['01:00 UTC+1', '01:00 UTC'])
  })

  it('tell them apart too where the clock goes back by half an hour', () => {
    const night = ['2027-04-03T14:30:00Z', '2027-04-03T15:00:00Z'] // 01:30 twice on Lord Howe (IANA zone data)
    show(night, '2027-04-04', 'Australia/Lord_Howe', 'Australia/Lord_Howe')
    expect(screen.getAllByRole('button').map((b) => b.getAttribute('aria-label'))).toEqual([
      '01:30 UTC+11',
      '01:30 UTC+10:30',
    ])
  })

  it('say that the last ones are the last only if nothing can be booked later', () => {
    const last = (until?: string) => {
      const { onDate } = show(
        ['2026-10-21T14:00:00Z'],
        '2026-10-22',
        'Europe/Lisbon',
        'Europe/Lisbon',
        undefined,
        until,
      )
      fireEvent.click(screen.getByRole('button', { name: /Wednesday 21 October/ }))
      expect(onDate).toHaveBeenCalledWith('2026-10-21')
      const words = screen.getByRole('button').textContent
      cleanup()
      return words
    }
    expect(last()).toBe('The last ones in the weeks shown are on Wednesday 21 October')
    expect(last('2027-01-30T00:00:00Z')).toBe('The last ones in the weeks shown are on Wednesday 21 October')
    expect(last('2026-11-01T00:00:00Z')).toBe('The last ones are on Wednesday 21 October')
  })

  it('lead on to the next open day where there are none', () => {
    const { onDate } = show([], '2026-10-24', 'Europe/Lisbon', 'Europe/Lisbon', '2026-12-01T09:00:00Z')
    fireEvent.click(screen.getByRole('button', { name: 'The next are on Tuesday 1 December' }))
    expect(onDate).toHaveBeenCalledWith('2026-12-01')
  })
})
