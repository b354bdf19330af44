// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { BookingPage } from './BookingPage'
import { SpokenIn, textsIn } from './texts'
import { de } from './texts/de'
import { whoIs } from './who'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const booking: Schemas['ClientBooking'] = {
  link: '/b/secret',
  state: 'booked',
  over: false,
  start: new Date(Date.now() + 24 * 3600_000).toISOString(),
  end: new Date(Date.now() + 25 * 3600_000).toISOString(),
  type: 'Loan condition call',
  host: 'Ines Valadares and Maren Achterberg',
  hosts: ['Ines Valadares', 'Maren Achterberg'],
  oneOfUs: false,
  hostZone: 'Europe/Lisbon',
  workspace: 'Quillmere',
  name: 'Harbour Books',
  mail: 'harbour@books.example',
  remark: '',
  zone: 'Europe/Lisbon',
  zones: 'client',
  page: '/p/quillmere/loan-call',
  recorded: false,
  way: 'phone',
  calls: 'client',
  number: '+351 21 000 0123',
  said: [{ word: 'Is it a loan?', what: 'yes', kind: 'yes-no' }],
  guests: [],
  seats: [],
  proposed: [],
  askReason: false,
  hostMail: 'ines@quillmere.example',
  confirmed: false,
  mayConfirm: true,
  mayRate: false,
  looks: {},
}

function Page({ of }: { of: Schemas['ClientBooking'] }) {
  const [shown, setShown] = useState(of)
  return <BookingPage booking={shown} fresh={false} onChange={setShown} />
}

function answering(status: number, body: unknown) {
  const asked: string[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push(`${request.method} ${new URL(request.url).pathname}`)
    return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
  })
  return asked
}

describe('a booking’s page', () => {
  it('says in its language whom one meets, who calls, and what was answered', () => {
    render(
      <SpokenIn value={de}>
        <Page of={booking} />
      </SpokenIn>,
    )
    expect(screen.getByText('Ines Valadares und Maren Achterberg, Quillmere')).toBeTruthy()
    expect(screen.getByText('Is it a loan?').nextElementSibling?.textContent).toBe('Ja')
    const number = screen.getByRole('link', { name: '+351 21 000 0123' })
    expect(number.getAttribute('href')).toBe('tel:+351210000123')
    expect(number.parentElement?.textContent).toBe('Sie rufen uns an unter +351 21 000 0123.')
  })

  it('shows no empty link where a type had no number yet', () => {
    render(<Page of={{ ...booking, number: undefined }} />)
    expect(screen.getByText('by phone')).toBeTruthy()
  })

  it('keeps the focus when its client confirms', async () => {
    const asked = answering(200, { ...booking, confirmed: true, mayConfirm: false })
    render(<Page of={booking} />)
    fireEvent.click(screen.getByRole('button', { name: 'I will be there' }))
    const told = await screen.findByText('You have said that you will be there.')
    await waitFor(() => expect(document.activeElement).toBe(told))
    expect(asked).toEqual(['POST /api/bookings/secret/confirm'])
    expect(screen.queryByRole('button', { name: 'I will be there' })).toBeNull()
  })

  const at = (days: number) => new Date(Date.now() + days * 24 * 3600_000).toISOString()
  const seat = (days: number, name: string, state: 'booked' | 'cancelled' = 'booked') => ({
    link: `/b/${days}${name}`,
    start: at(days),
    end: at(days),
    name,
    state,
    this: days === 1 && name === 'Ada',
  })

  it('lists the dates of a series, and counts only what can still be given back', () => {
    const seats = [seat(-6, 'Ada'), seat(1, 'Ada'), seat(8, 'Ada', 'cancelled'), seat(15, 'Ada')]
    render(<Page of={{ ...booking, name: 'Ada', seats }} />)
    expect(screen.getByText('Your dates').nextElementSibling?.querySelectorAll('li')).toHaveLength(4)
    expect(screen.getByText('given back')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'Cancel all 2 dates' })).toBeTruthy()
    expect(screen.queryByText(/· Ada/), 'one person needs no name beside each').toBeNull()
  })

  it('names who comes where seats are for several, and gives all back at one press', async () => {
    const seats = [seat(1, 'Ada'), { ...seat(1, 'Bo'), this: false }]
    const bodies: unknown[] = []
    vi.stubGlobal('fetch', async (request: Request) => {
      bodies.push(await request.json())
      return Response.json({ ...booking, state: 'cancelled' })
    })
    render(<Page of={{ ...booking, name: 'Ada', seats }} />)
    expect(screen.getByText('Who comes').nextElementSibling?.textContent).toBe('AdaBo')
    fireEvent.click(screen.getByRole('button', { name: 'Cancel all 2 seats' }))
    fireEvent.click(await screen.findByRole('button', { name: 'Cancel all 2 seats' }))
    expect(await screen.findByText('This meeting is cancelled.')).toBeTruthy()
    expect(bodies).toEqual([{ reason: '', all: true }])
  })

  it('offers all of one’s own seats when one is given, not those of others, and keeps what was typed', async () => {
    const seats = [seat(1, 'Ada'), seat(8, 'Ada'), seat(1, 'Bo')]
    answering(422, {
      detail: 'Some cannot be used.',
      fields: { mail: { code: 'give-mail', sentence: 'Enter their mail address: the invitation goes there.' } },
    })
    render(<Page of={{ ...booking, name: 'Ada', mayGive: true, seats }} />)
    fireEvent.click(screen.getByRole('button', { name: 'Give my seat to somebody' }))
    fireEvent.change(screen.getByLabelText('Their name'), { target: { value: 'Dee' } })
    fireEvent.click(screen.getByLabelText('All 2 of these seats'))
    fireEvent.click(screen.getByRole('button', { name: 'Give the seat' }))
    expect(await screen.findByText('Enter their mail address: the invitation goes there.')).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('Their name').value).toBe('Dee')
  })

  it('says who has a seat now that was given', () => {
    render(<Page of={{ ...booking, state: 'cancelled', givenTo: 'Dee' }} />)
    expect(screen.getByRole('heading', { name: 'Dee has this seat now.' })).toBeTruthy()
  })

  it('says why it can’t be confirmed, and can be pressed again', async () => {
    answering(409, { detail: 'This booking was cancelled. Book a new time instead.' })
    render(<Page of={booking} />)
    fireEvent.click(screen.getByRole('button', { name: 'I will be there' }))
    expect(await screen.findByText('This booking was cancelled. Book a new time instead.')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'I will be there' })).toBeTruthy()
  })

  it('takes a correction, keeps it where it is refused, and says what changed last', async () => {
    const correct: Schemas['Correctable'] = {
      questions: [{ id: 'lender', kind: 'short', label: 'Who lends it?', required: true }],
      said: { lender: ['The harbour'] },
      asks: 'number',
      given: '+351210000123',
    }
    answering(422, {
      detail: 'Some cannot be used.',
      fields: { given: { code: 'phone-incomplete', sentence: 'Not complete.' } },
    })
    render(
      <SpokenIn value={de}>
        <Page of={{ ...booking, correct }} />
      </SpokenIn>,
    )
    fireEvent.click(screen.getByRole('button', { name: 'Angaben ändern' }))
    fireEvent.change(screen.getByLabelText('Who lends it?'), { target: { value: 'The lighthouse' } })
    fireEvent.click(screen.getByRole('button', { name: 'Änderungen speichern' }))
    expect(await screen.findByText(/keine vollständige Telefonnummer/)).toBeTruthy()
    expect((screen.getByLabelText('Who lends it?') as HTMLInputElement).value).toBe('The lighthouse')

    answering(200, { ...booking, correct, last: { kind: 'corrected', by: 'client', at: '2026-05-04T10:00:00Z' } })
    fireEvent.click(screen.getByRole('button', { name: 'Änderungen speichern' }))
    expect(await screen.findByText(/Sie haben Ihre Angaben am .* geändert/)).toBeTruthy()
    expect(screen.queryByLabelText('Who lends it?')).toBeNull()
  })
})

describe('whom a client meets', () => {
  it('is listed as the language lists', async () => {
    const hosts = (names: string[], oneOfUs: boolean) => ({ hosts: names, oneOfUs, host: 'Quillmere' })
    const [en, fr] = [await textsIn('en'), await textsIn('fr')]
    expect(whoIs(hosts(['Ines'], false), en)).toBe('Ines')
    expect(whoIs(hosts(['Ines', 'Maren', 'Siew'], false), fr)).toBe('Ines, Maren et Siew')
    expect(whoIs(hosts(['Ines'], true), en)).toBe('Ines and a colleague')
    expect(whoIs(hosts([], true), fr)).toBe('un membre de notre équipe')
    expect(whoIs(hosts([], false), en)).toBe('Quillmere')
  })
})
