// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { BookPage } from './BookPage'
import { nothingPrepared } from './given'
import { solve } from './solve'

const page: Schemas['Page'] = {
  workspace: 'Quillmere',
  type: 'Loan condition call',
  description: '',
  seats: 1,
  minutes: 30,
  lengths: [30],
  zones: 'client',
  zone: 'Europe/Lisbon',
  firstWeekday: 1,
  host: 'Ines Valadares',
  hosts: ['Ines Valadares'],
  oneOfUs: false,
  hostZone: 'Europe/Lisbon',
  choice: [],
  asks: [],
  ways: [{ id: 'video', kind: 'video' }],
  questions: [],
  guests: 0,
  onRequest: false,
  proof: '',
  looks: {},
  path: '/p/quillmere/loan-call',
}

/** Starts on a day next week, as the server would send them. */
const soon = new Date(Date.now() + 7 * 24 * 3600_000).toISOString().slice(0, 10)
const start = (clock: string) => `${soon}T${clock}:00Z`

type Reply = { status: number; body: unknown } | 'offline'

/** A server whose open times stay and whose answers to bookings come from a list; it keeps what it was sent. */
function serve(replies: Reply[]) {
  const sent: { key: string | null; body: Record<string, string> }[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const json = (status: number, body: unknown) =>
      new Response(JSON.stringify(body), {
        status,
        headers: { 'Content-Type': status < 300 ? 'application/json' : 'application/problem+json' },
      })
    if (request.method === 'GET') {
      const now = new Date().toISOString()
      return json(200, { now, earliest: now, starts: ['09:00', '09:30', '14:00'].map(start) })
    }
    sent.push({ key: request.headers.get('Idempotency-Key'), body: await request.json() })
    const reply = replies.shift() ?? 'offline'
    if (reply === 'offline') throw new TypeError('network')
    return json(reply.status, reply.body)
  })
  return sent
}

async function choose(clock: string) {
  fireEvent.click(await screen.findByRole('button', { name: new RegExp(`^${clock}`) }))
}

function type(label: RegExp | string, value: string) {
  fireEvent.change(screen.getByLabelText(label), { target: { value } })
}

function show(onBooked = vi.fn(), change: Partial<Schemas['Page']> = {}) {
  render(
    <BookPage
      prepared={nothingPrepared}
      workspace="quillmere"
      type="loan-call"
      page={{ ...page, ...change }}
      onBooked={onBooked}
    />,
  )
  return onBooked
}

beforeEach(() => {
  sessionStorage.clear()
  history.replaceState(null, '', '/p/quillmere/loan-call')
  vi.spyOn(Intl.DateTimeFormat.prototype, 'resolvedOptions').mockReturnValue({
    timeZone: 'UTC',
  } as Intl.ResolvedDateTimeFormatOptions)
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

describe("a client's page", () => {
  it('opens the first day with open times, and reads as a sentence', async () => {
    serve([])
    show()
    await choose('09:30')
    expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(
      /^A loan condition call of 30 minutes with Ines Valadares, by video, on \w+ \d+ \w+ at 09:30 your time\.$/,
    )
    expect(screen.getByRole('button', { name: 'Book 09:30' })).toBeTruthy()
  })

  it.each([
    ['Urgent lamp failure', 'An urgent lamp failure'],
    ['Opening talk', 'An opening talk'],
    ['Use of the meter', 'A use of the meter'],
    ['Unique case', 'A unique case'],
    ['One-hour lesson', 'A one-hour lesson'],
    ['UV reading', 'A UV reading'],
  ])('gives %s its article', async (type, begins) => {
    serve([])
    show(vi.fn(), { type })
    expect((await screen.findByRole('heading', { level: 1 })).textContent).toMatch(new RegExp(`^${begins} of`))
  })

  it('lets the client choose among several lengths, and asks for the time anew', async () => {
    const sent = serve([{ status: 200, body: { link: '/b/x' } }])
    show(vi.fn(), { lengths: [30, 45] })
    await choose('09:30')
    type('Length', '45')
    expect(screen.getByRole('button', { name: 'Choose a time first' })).toBeTruthy()
    await choose('09:00')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await waitFor(() => expect(sent).toHaveLength(1))
    expect(sent[0]?.body).toMatchObject({ start: expect.stringMatching(/T09:00/), minutes: 45 })
  })

  it('shows the workspace’s clock alone where everybody is on it', async () => {
    serve([])
    show(vi.fn(), { zones: 'hidden', zone: 'Asia/Singapore' })
    await choose('17:30')
    expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(/at 17:30\.$/)
    expect(screen.queryByLabelText('Your time zone')).toBeNull()
    expect(screen.queryByText(/Singapore|Lisbon/)).toBeNull()
  })

  it('keeps everything typed when the time was taken, and offers the nearest', async () => {
    const taken = {
      type: 'urn:corrim:problem:time-taken',
      detail: 'This time has just been taken.',
      nearest: [start('14:00')],
    }
    const sent = serve([
      { status: 409, body: taken },
      { status: 200, body: { link: '/b/x' } },
    ])
    const onBooked = show()
    await choose('09:00')
    type('Name', 'Harbour')
    type('Mail', 'keeper@harbour.example')
    type(/should know/, 'two maps')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await screen.findByText('This time has just been taken.')
    expect((screen.getByLabelText(/should know/) as HTMLTextAreaElement).value).toBe('two maps')
    expect((screen.getByRole('button', { name: 'Choose a time first' }) as HTMLButtonElement).disabled).toBe(true)

    fireEvent.click(screen.getByRole('button', { name: /^\w{3} 14:00$/ }))
    fireEvent.click(await screen.findByRole('button', { name: 'Book 14:00' }))
    await waitFor(() => expect(onBooked).toHaveBeenCalledWith({ link: '/b/x' }))
    expect(sent[1]?.body).toMatchObject({
      start: `${soon}T14:00:00.000Z`,
      name: 'Harbour',
      remark: 'two maps',
      zone: 'UTC',
    })
    expect(sent[1]?.key, 'another time is another booking').not.toBe(sent[0]?.key)
  })

  it('sends the same request again after the network failed, so that it books once', async () => {
    const sent = serve(['offline', { status: 200, body: { link: '/b/x' } }])
    const onBooked = show()
    await choose('09:00')
    type('Name', 'Harbour')
    type('Mail', 'keeper@harbour.example')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await screen.findByText(/Corrim did not answer/)
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await waitFor(() => expect(onBooked).toHaveBeenCalled())
    expect(sent[1]?.key).toBe(sent[0]?.key)
  })

  it('says nothing again for the next booking but who the client is', async () => {
    const sent = serve([
      { status: 200, body: { link: '/b/x' } },
      { status: 200, body: { link: '/b/y' } },
    ])
    const onBooked = show(vi.fn(), { guests: 2, consent: 'I agree.' })
    await choose('09:00')
    type('Name', 'Harbour')
    type('Mail', 'keeper@harbour.example')
    type(/should know/, 'two maps')
    type(/Mail addresses of up to/, 'friend@x.example')
    fireEvent.click(screen.getByLabelText(/I agree/))
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await waitFor(() => expect(onBooked).toHaveBeenCalledTimes(1))
    expect(sent[0]?.body).toMatchObject({ guests: ['friend@x.example'], consent: true })
    cleanup()
    show(vi.fn(), { guests: 2, consent: 'I agree.' })
    await choose('14:00')
    fireEvent.click(screen.getByRole('button', { name: 'Book 14:00' }))
    await waitFor(() => expect(sent).toHaveLength(2))
    expect(sent[1]?.body).toMatchObject({ name: 'Harbour', remark: '', guests: [], consent: false })
  })

  it('takes who comes along, with what everybody is asked, and keeps them when they are refused', async () => {
    const sent = serve([
      {
        status: 422,
        body: {
          detail: 'Some cannot be used.',
          fields: { 'along.1.name': { code: 'along-name', sentence: 'Enter the name of whoever comes along.' } },
        },
      },
      { status: 200, body: { link: '/b/x' } },
    ])
    const onBooked = show(vi.fn(), {
      seats: 6,
      along: 2,
      questions: [
        { id: 'why', kind: 'short', label: 'Why?' },
        { id: 'diet', kind: 'short', label: 'Diet?', everybody: true },
      ],
    })
    await choose('09:00')
    type('Name', 'Ada')
    type('Mail', 'ada@x.example')
    fireEvent.click(screen.getByRole('button', { name: 'Bring somebody' }))
    fireEvent.click(screen.getByRole('button', { name: 'Bring somebody' }))
    expect(screen.queryByRole('button', { name: 'Bring somebody' }), 'two at most').toBeNull()
    expect(screen.getAllByLabelText('Why?')).toHaveLength(1)
    const [, bosDiet, otherDiet] = screen.getAllByLabelText('Diet?')
    const [bo] = screen.getAllByLabelText('Name of whoever comes along')
    fireEvent.change(bo as Element, { target: { value: 'Bo' } })
    fireEvent.change(bosDiet as Element, { target: { value: 'Fish' } })
    fireEvent.change(otherDiet as Element, { target: { value: 'Eggs' } })
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await screen.findByText('Enter the name of whoever comes along.')
    const names = () => screen.getAllByLabelText<HTMLInputElement>('Name of whoever comes along')
    await waitFor(() => expect(document.activeElement).toBe(names()[1]))
    fireEvent.click(screen.getByRole('button', { name: 'Leave out' }))
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await waitFor(() => expect(onBooked).toHaveBeenCalled())
    expect(sent[1]?.body).toMatchObject({ along: [{ name: 'Bo', mail: '', said: { diet: ['Fish'] } }], any: false })
  })

  it('lists a series where it begins, with all its dates', async () => {
    const [first, second] = [start('09:00'), new Date(Date.parse(start('10:30')) + 7 * 24 * 3600_000).toISOString()]
    vi.stubGlobal('fetch', async () => {
      const now = new Date().toISOString()
      return Response.json({
        now,
        earliest: now,
        starts: [first],
        left: { [first]: 2 },
        series: { [first]: [first, second] },
      })
    })
    show(vi.fn(), { seats: 4, sessions: true, whole: true })
    const row = await screen.findByRole('button', { name: /2 dates/ })
    expect(row.textContent).toContain('2 seats left')
    expect(row.textContent, 'another time of day is named').toContain('10:30')
    expect(screen.getByText(/A series is booked whole/)).toBeTruthy()
  })

  it('says what is wrong where it is, and keeps what was typed over a reload', async () => {
    serve([
      {
        status: 422,
        body: {
          detail: 'Some cannot be used.',
          fields: { mail: { sentence: 'This is not a complete mail address.' } },
        },
      },
    ])
    show()
    await choose('09:00')
    type('Name', 'Harbour')
    type('Mail', 'keeper@')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await screen.findByText('This is not a complete mail address.')
    const mail = screen.getByLabelText('Mail')
    expect(mail.getAttribute('aria-invalid')).toBe('true')
    await waitFor(() => expect(document.activeElement).toBe(mail))
    cleanup()
    show()
    expect(((await screen.findByLabelText('Name')) as HTMLInputElement).value).toBe('Harbour')
  })

  it('says what is wrong even where the form has no field for it', async () => {
    const gone = 'This length is not offered, or not any more. Choose another one.'
    serve([
      {
        status: 422,
        body: {
          detail: 'Some cannot be used.',
          fields: { minutes: { sentence: gone }, 'said.hidden': { sentence: 'Answer this.' } },
        },
      },
    ])
    show()
    await choose('09:00')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    const told = await screen.findByText(gone)
    expect(screen.getByText('Answer this.')).toBeTruthy()
    await waitFor(() => expect(told.closest('[data-refused]')).toBe(document.activeElement))
  })

  it('is walked through by arrow keys', async () => {
    serve([])
    show()
    const day = await screen.findByRole('button', { name: /3 open$/ })
    await waitFor(() => expect(day.getAttribute('aria-pressed')).toBe('true'))
    fireEvent.keyDown(day, { key: 'ArrowRight' })
    expect(await screen.findByText(/No open times on this day/)).toBeTruthy()
    expect(screen.getByRole('button', { name: /The last ones in the weeks shown are on/ })).toBeTruthy()
  })

  it('lists the soonest days', async () => {
    serve([])
    show()
    await choose('09:00')
    fireEvent.click(screen.getByRole('button', { name: 'Soonest days' }))
    fireEvent.click(screen.getByRole('button', { name: '14:00' }))
    expect(screen.getByRole('button', { name: 'Book 14:00' })).toBeTruthy()
  })

  it('has the browser solve the puzzle that the page wants, and another one after a refusal', async () => {
    const tokens = ['one', 'two']
    const sent = serve([
      { status: 422, body: { detail: 'Some cannot be used.', fields: { puzzle: { sentence: 'It is too old.' } } } },
      { status: 200, body: { link: '/b/x' } },
    ])
    const others = fetch
    vi.stubGlobal('fetch', async (request: Request) => {
      if (!request.url.endsWith('/puzzle')) return others(request)
      return Response.json({ token: tokens.shift(), bits: 4 })
    })
    const onBooked = show(vi.fn(), { proof: 'puzzle' })
    expect(tokens, 'nobody has chosen a time yet').toHaveLength(2)
    await choose('09:00')
    expect(screen.getByText(/your browser solves a small puzzle/)).toBeTruthy()
    type('Name', 'Harbour')
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    expect(await screen.findByText('It is too old.')).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Book 09:00' }))
    await waitFor(() => expect(onBooked).toHaveBeenCalled())
    expect(sent.map(({ body }) => body.puzzle)).toEqual([
      { token: 'one', answer: solve({ token: 'one', bits: 4 }) },
      { token: 'two', answer: solve({ token: 'two', bits: 4 }) },
    ])
    expect(sent[1]?.body.name).toBe('Harbour')
  })
})
