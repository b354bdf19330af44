// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { type Day, DayRibbon, describe as inWords } from './DayRibbon'
import type { Interval } from './editing'
import { HoursRibbon } from './HoursRibbon'
import { Ruler } from './Ribbon'

afterEach(cleanup)

const day: Day = {
  date: '2026-12-03',
  open: [
    { from: 540, to: 720 },
    { from: 780, to: 1020 },
  ],
  busy: [{ from: 600, to: 660, label: 'Depot' }],
  bookings: [
    {
      id: 7,
      from: 780,
      to: 830,
      label: 'Museu da Ria',
      keptFrom: 780,
      keptUntil: 840,
      version: 0,
      state: 'booked',
      begun: false,
    },
  ],
  tooSoon: [{ from: 0, to: 570 }],
  outside: [],
  kept: [870, 885],
  gained: [900],
  lost: [930, 945],
}
const axis = { from: 480, to: 1080 }

describe('a day on a ribbon', () => {
  it('says everything it shows', () => {
    render(<DayRibbon day={day} axis={axis} name="Thu 3 Dec" />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'Thu 3 Dec; open 09:00 to 12:00, 13:00 to 17:00; busy 10:00 to 11:00; booked 13:00 to 13:50 Museu da Ria; 3 open starts; 1 gained; 2 lost',
    )
    expect(inWords('Sun', { ...day, open: [], busy: [], bookings: [], kept: [], gained: [], lost: [] })).toBe(
      'Sun; closed',
    )
  })

  it('draws each state with a mark of its own', () => {
    const { container } = render(<DayRibbon day={day} axis={axis} name="Thu" now={850} />)
    const count = (mark: string) => container.querySelectorAll(mark).length
    expect([count('.mark-open'), count('.mark-busy'), count('.mark-booked'), count('.mark-buffer')]).toEqual([
      2, 1, 1, 1,
    ])
    expect([count('.tick'), count('.tick-gained'), count('.tick-lost')]).toEqual([5, 1, 2])
    expect(count('.now')).toBe(1)
    expect(container.querySelector('.mark-booked.over'), 'a meeting that is over is paler').not.toBeNull()
    expect(count('.mark-soon'), 'too soon shows only where hours are open').toBe(1)
  })

  it('has a ruler of full hours', () => {
    const { container } = render(<Ruler axis={axis} every={180} />)
    expect(container.textContent).toBe('091215')
  })
})

describe('hours on a ribbon', () => {
  function show(intervals: Interval[]) {
    const onChange = vi.fn<(next: Interval[]) => void>()
    render(<HoursRibbon name="Monday" intervals={intervals} axis={{ from: 420, to: 1200 }} onChange={onChange} />)
    const ribbon = screen.getByRole('group')
    // 780 minutes on 780 pixels: a pixel is a minute.
    ribbon.getBoundingClientRect = () => new DOMRect(100, 0, 780, 38)
    ribbon.setPointerCapture = () => {}
    const at = (minute: number) => ({ button: 0, pointerId: 1, clientX: 100 + minute - 420 })
    return { onChange, ribbon, at }
  }

  it('are drawn by dragging over a free stretch', () => {
    const { onChange, ribbon, at } = show([])
    fireEvent.pointerDown(ribbon, at(600))
    fireEvent.pointerMove(ribbon, at(700))
    expect(screen.getByText('10:00–11:45')).toBeTruthy()
    fireEvent.pointerMove(ribbon, at(780))
    fireEvent.pointerUp(ribbon, at(780))
    expect(onChange).toHaveBeenCalledExactlyOnceWith([{ start: 600, end: 780 }])
  })

  it('are moved whole, and stretched at an end', () => {
    const { onChange, ribbon, at } = show([{ start: 540, end: 720 }])
    const interval = screen.getByRole('button', { name: /Monday 09:00 to 12:00/ })
    fireEvent.pointerDown(interval, at(600))
    fireEvent.pointerMove(ribbon, at(660))
    fireEvent.pointerUp(ribbon, at(660))
    expect(onChange).toHaveBeenLastCalledWith([{ start: 600, end: 780 }])
    const [, end] = interval.querySelectorAll('.grip-end')
    fireEvent.pointerDown(end as Element, at(720))
    fireEvent.pointerMove(ribbon, at(750))
    fireEvent.pointerUp(ribbon, at(750))
    expect(onChange).toHaveBeenLastCalledWith([{ start: 540, end: 750 }])
  })

  it('stay as they are after a press without a drag, or one that was broken off', () => {
    const { onChange, ribbon, at } = show([{ start: 540, end: 720 }])
    fireEvent.pointerDown(ribbon, at(800))
    fireEvent.pointerUp(ribbon, at(800))
    fireEvent.pointerDown(ribbon, at(800))
    fireEvent.pointerMove(ribbon, at(900))
    fireEvent.pointerCancel(ribbon)
    expect(onChange).not.toHaveBeenCalled()
  })

  it('are changed by keys', () => {
    const { onChange } = show([{ start: 540, end: 720 }])
    const interval = screen.getByRole('button')
    fireEvent.keyDown(interval, { key: 'ArrowLeft', shiftKey: true })
    expect(onChange).toHaveBeenLastCalledWith([{ start: 540, end: 705 }])
    fireEvent.keyDown(interval, { key: 'Delete' })
    expect(onChange).toHaveBeenLastCalledWith([])
    fireEvent.keyDown(interval, { key: 'Tab' })
    expect(onChange).toHaveBeenCalledTimes(2)
  })
})
