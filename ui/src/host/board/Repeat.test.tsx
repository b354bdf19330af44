// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { enter, showServed } from '../served'
import { Repeat } from './Repeat'

afterEach(cleanup)

const times = { type: 3, date: '2026-05-05', minute: 600 } as unknown as Schemas['HandTimes']
let rule = ''
let without: string[] = []

function Form() {
  const [left, setLeft] = useState<string[]>([])
  without = left
  return (
    <Repeat
      times={times}
      without={left}
      onRepeat={(next) => {
        rule = next
      }}
      onWithout={setLeft}
    />
  )
}

const dates = [
  { date: '2026-05-05', clock: '10:00', open: true, why: [] },
  { date: '2026-05-12', clock: '10:00', open: false, why: [{ sentence: 'Busy 10:00–11:00.' }] },
  { date: '2026-05-19', clock: '10:00', open: false, why: [{ sentence: 'Closed.' }] },
]
const show = () => showServed(<Form />, { 'POST /host-bookings/check': dates })
describe('a booking that comes again', () => {
  it('is a recurrence rule (RFC 5545, 3.3.10) that ends', () => {
    show()
    enter('Does it come again?', 'every two weeks')
    expect(rule).toBe('FREQ=WEEKLY;INTERVAL=2;COUNT=4')
    enter('How often in all', '6')
    expect(rule).toBe('FREQ=WEEKLY;INTERVAL=2;COUNT=6')
    enter('How often in all', '')
    expect(rule, 'emptied while typing').toBe('FREQ=WEEKLY;INTERVAL=2;COUNT=2')
    enter('Does it come again?', 'by a rule')
    enter('Recurrence rule (RRULE)', 'FREQ=DAILY;COUNT=3')
    expect(rule).toBe('FREQ=DAILY;COUNT=3')
    enter('Does it come again?', 'once')
    expect(rule).toBe('')
    expect(screen.queryByLabelText('Dates')).toBeNull()
  })

  it('says of each date why it is not open, and leaves out those that are not', async () => {
    show()
    enter('Does it come again?', 'every week')
    await screen.findByText('Busy 10:00–11:00.')
    fireEvent.click(screen.getByLabelText(/Tue 5 May/))
    expect(without).toEqual(['2026-05-05'])
    fireEvent.click(screen.getByLabelText(/Tue 5 May/))
    fireEvent.click(screen.getByText('Leave out the 2 that are not open'))
    await waitFor(() => expect(without).toEqual(['2026-05-12', '2026-05-19']))
    expect(screen.queryByText(/^Leave out/)).toBeNull()
  })
})
