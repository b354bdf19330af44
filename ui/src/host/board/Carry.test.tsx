// @vitest-environment happy-dom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { showServed } from '../served'
import { Carry, useCarrying } from './Carry'

beforeEach(() => {
  vi.setSystemTime('2026-05-01')
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

const booking = { id: 7, label: 'Harbour', from: 600, to: 650 } as Schemas['Booked']
const row = (id: number, person: string) =>
  ({ id, person, ribbon: { date: '2026-05-05', open: [], busy: [], bookings: [] } }) as unknown as Schemas['BoardRow']
const rows = [row(1, 'Ines'), row(2, 'Maren')]

function Lifter() {
  const { lift, places } = useCarrying()
  return (
    <>
      {rows.map((one) => (
        <div key={one.id} data-row />
      ))}
      <button type="button" onClick={() => lift({ booking, from: { row: 0, minute: 600 } })}>
        Lift
      </button>
      <output>{places.get(0)?.join(' ')}</output>
    </>
  )
}

function lifted() {
  const view = { from: '2026-05-05', days: 1, everybody: true }
  const sent = showServed(
    <Carry rows={rows} axis={{ from: 480, to: 1080 }} view={view}>
      <Lifter />
    </Carry>,
    {
      'GET /host-bookings/7/targets': [
        { person: 1, date: '2026-05-05', open: [660, 720] },
        { person: 2, date: '2026-05-05', open: [600] },
      ],
      'POST /host-bookings/7/targets/check': { open: false, why: [{ sentence: 'Busy 10:00–11:00.' }] },
    },
  )
  fireEvent.click(screen.getByText('Lift'))
  return sent
}

const press = (key: string, shiftKey = false) => fireEvent.keyDown(document.body, { key, shiftKey })
const says = () => screen.getByText(/^(Ines|Maren), /).parentElement?.textContent ?? ''

describe('a booking carried by keys', () => {
  it('goes from one open place to the next, with Shift by five minutes, and up and down over colleagues', async () => {
    lifted()
    expect(says()).toContain('Ines, Tue 5 May 10:00')
    await screen.findByText('660 720')
    press('ArrowRight')
    expect(says()).toContain('11:00 is open.')
    press('ArrowRight')
    expect(says()).toContain('12:00 is open.')
    press('ArrowLeft', true)
    expect(says()).toContain('11:55')
    press('ArrowDown')
    expect(says()).toContain('Maren, Tue 5 May 11:55')
    press('ArrowDown')
    expect(says(), 'there is nobody below').toContain('Maren')
    expect(await screen.findByText('Busy 10:00–11:00.')).toBeTruthy()
  })

  it('is let go by Esc, and nothing has moved', () => {
    const sent = lifted()
    press('ArrowRight', true)
    press('Escape')
    expect(screen.queryByText(/^Ines, /)).toBeNull()
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(sent.filter(({ asked }) => !asked.startsWith('GET'))).toEqual([])
  })
})
