// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { showServed } from '../served'
import { Participants } from './Participants'

afterEach(cleanup)

function sheet(start: string): Schemas['BookingSheet'] {
  const one = (booking: number, name: string, state: string) => ({
    booking,
    name,
    mail: `${name}@x.example`,
    state,
    confirmed: false,
  })
  const participants = [one(1, 'Ada', 'booked'), one(2, 'Bo', 'booked'), one(3, 'Cy', 'waiting')]
  return { id: 9, start, participants } as unknown as Schemas['BookingSheet']
}

function show(start: string) {
  return showServed(<Participants of={sheet(start)} />, {
    'POST /host-bookings/1/attendance': null,
    'POST /host-bookings/2/attendance': null,
  })
}

it('says by keys who came, going down the names', async () => {
  const sent = show('2020-05-05T10:00:00Z')
  const [ada, bo, cy] = ['Ada', 'Bo', 'Cy'].map((name) => screen.getByRole('button', { name }))
  ada?.focus()
  fireEvent.keyDown(document.activeElement as Element, { key: 'c' })
  fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowDown' })
  expect(document.activeElement).toBe(bo)
  fireEvent.keyDown(document.activeElement as Element, { key: 'd' })
  fireEvent.keyDown(document.activeElement as Element, { key: 'ArrowDown' })
  expect(document.activeElement).toBe(cy)
  fireEvent.keyDown(document.activeElement as Element, { key: 'c' })
  await waitFor(() =>
    expect(sent).toEqual([
      { asked: 'POST /host-bookings/1/attendance', body: { event: 'attended' } },
      { asked: 'POST /host-bookings/2/attendance', body: { event: 'no-show' } },
    ]),
  )
})

it('says nothing by keys before it has begun', () => {
  const sent = show('2999-05-05T10:00:00Z')
  screen.getByRole('button', { name: 'Ada' }).focus()
  fireEvent.keyDown(document.activeElement as Element, { key: 'c' })
  expect(sent).toEqual([])
})
