// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { showServed } from '../served'
import { Doubt } from './Doubt'

beforeEach(() => {
  vi.setSystemTime('2026-05-04')
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

const doubt = {
  id: 4,
  type: 'Evening course',
  start: '2026-05-05T18:30:00Z',
  booked: 1,
  least: 3,
  after: 2,
  comers: ['Ada'],
}

it('lets a session take place, or calls it off with what stands and falls with it', async () => {
  const sent = showServed(<Doubt doubt={doubt} zone="UTC" />, {
    'POST /host-bookings/4/takes-place': {},
    'POST /host-bookings/4/cancel-for-all': {},
  })
  expect(screen.getByText('Evening course, Tue 5 May 18:30')).toBeTruthy()
  expect(
    screen.getByText(
      /^One person has signed up; .* meant for 3 or more\. .* the 2 sessions after it, unless you call it off\.$/,
    ),
  ).toBeTruthy()
  fireEvent.click(screen.getByText('It takes place'))
  await waitFor(() => expect(sent.map(({ asked }) => asked)).toEqual(['POST /host-bookings/4/takes-place']))
  fireEvent.click(screen.getByText('Call it off'))
  expect(screen.getByText('Ada is told.')).toBeTruthy()
  fireEvent.change(screen.getByRole('textbox'), { target: { value: 'Too few of us.' } })
  fireEvent.click(screen.getByRole('button', { name: 'Call it off' }))
  await waitFor(() => expect(sent.at(-1)?.body).toEqual({ word: 'Too few of us.', rest: true }))
})
