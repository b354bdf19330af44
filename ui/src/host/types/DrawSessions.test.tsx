// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { showServed } from '../served'
import { DrawSessions } from './DrawSessions'

beforeEach(() => {
  vi.setSystemTime('2026-05-01')
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

const type = { id: 7, hosts: [1], rules: { duration: 60 } } as Schemas['MeetingType']

function Form({ written }: { written: Schemas['HandTime'][] }) {
  const [text, setText] = useState('written')
  const read = text === 'written' ? written : []
  return (
    <>
      <output>{text}</output>
      <button type="button" onClick={() => setText('written')}>
        write
      </button>
      <DrawSessions type={type} host={0} text={text} read={read} onText={setText} />
    </>
  )
}

const picked = () => [...screen.getByLabelText('Picked times').querySelectorAll('li')].map((li) => li.textContent)

it('writes what is drawn as a sentence, and draws what is written', async () => {
  const written = [{ date: '2026-05-05', clock: '17:30', open: true, why: [] }]
  const sent = showServed(<Form written={written} />, {
    'GET /me': { person: { id: 1, zone: 'UTC', name: 'Ines' } },
    'GET /board': { rows: [] },
    'POST /group-sessions/sentence': { code: '', sentence: 'as drawn', parts: [] },
  })
  fireEvent.click(screen.getByText('Draw them on days'))
  await waitFor(() => expect(picked()).toHaveLength(1))
  expect(picked()[0]).toContain('5 May 17:30')
  fireEvent.change(screen.getByLabelText('Day'), { target: { value: '2026-05-06' } })
  fireEvent.click(screen.getByText('Add this time'))
  await waitFor(() => expect(screen.getByRole('status').textContent).toBe('as drawn'))
  expect(picked(), 'what is drawn stays, whatever was read last').toHaveLength(2)
  expect(sent.at(-1)?.body).toEqual({
    type: 7,
    times: [
      { date: '2026-05-05', minute: 1050 },
      { date: '2026-05-06', minute: 600 },
    ],
  })
  fireEvent.click(screen.getByText('write'))
  await waitFor(() => expect(picked()).toHaveLength(1))
  fireEvent.click(screen.getByText('take out'))
  expect(screen.getByRole('status').textContent, 'nothing is left to be said').toBe('')
})
