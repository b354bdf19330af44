// @vitest-environment happy-dom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Picked, PickTimes } from './PickTimes'
import { showServed } from './served'

// Dates far from today are told with their year.
beforeEach(() => {
  vi.setSystemTime('2026-05-01')
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
  vi.restoreAllMocks()
})

let picked: Picked[] = []

function Form({ most = 3 }: { most?: number }) {
  const [times, setTimes] = useState<Picked[]>([])
  picked = times
  const open = new Map([['2026-05-05', [605]]])
  const props = { from: '2026-05-04', minutes: 30, person: 1, open, picked: times, onPick: setTimes, most }
  return <PickTimes {...props} />
}

const show = (most?: number) => showServed(<Form {...(most ? { most } : {})} />, { 'GET /board': { rows: [] } })

function add(day: string, time: string) {
  fireEvent.change(screen.getByLabelText('Day'), { target: { value: day } })
  fireEvent.change(screen.getByLabelText('Time'), { target: { value: time } })
  fireEvent.click(screen.getByText('Add this time'))
}

/** Presses a day's ribbon, which shows 8 to 18 o'clock, at a minute of it. */
function press(day: string, minute: number) {
  const ground = screen.getByLabelText(new RegExp(`^${day}: picked`)).closest('.cursor-pointer') as HTMLElement
  vi.spyOn(ground, 'getBoundingClientRect').mockReturnValue({ left: 100, width: 600 } as DOMRect)
  fireEvent.click(ground, { clientX: 100 + minute - 480 })
}

describe('times picked by hand', () => {
  it('are kept in order, each once, and a second time takes one out', () => {
    show()
    add('2026-05-06', '09:30')
    add('2026-05-05', '14:00')
    expect(picked).toEqual([
      { date: '2026-05-05', minute: 840 },
      { date: '2026-05-06', minute: 570 },
    ])
    add('2026-05-06', '09:30')
    expect(picked).toEqual([{ date: '2026-05-05', minute: 840 }])
    fireEvent.click(screen.getByLabelText('Take Tue 5 May 14:00 out'))
    expect(picked).toEqual([])
  })

  it('are no more than may be offered', () => {
    show(1)
    add('2026-05-05', '10:00')
    add('2026-05-05', '11:00')
    expect(picked).toHaveLength(1)
  })

  it('by a press are the open start near it, or the quarter of an hour', () => {
    show()
    press('Tue 5 May', 612)
    expect(picked, 'seven minutes from an open start').toEqual([{ date: '2026-05-05', minute: 605 }])
    press('Tue 5 May', 703)
    expect(picked[1]).toEqual({ date: '2026-05-05', minute: 705 })
  })
})
