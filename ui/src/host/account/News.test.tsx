// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import { showServed } from '../served'
import { News } from './News'

afterEach(cleanup)

const view = {
  kinds: ['booked', 'moved'],
  untold: [] as string[],
  texted: [],
  phone: '',
  stopped: false,
  byText: false,
  morning: '',
  notOwn: false,
}

it('sends what is chosen in quick succession one after the other, so that the last choice stands', async () => {
  let answerFirst: (kept: unknown) => void = () => {}
  const answers: Record<string, unknown> = {
    'GET /me/news': view,
    'PUT /me/news': new Promise((resolve) => {
      answerFirst = resolve
    }),
  }
  const sent = showServed(<News />, answers)
  const untold = () =>
    sent.filter(({ asked }) => asked.startsWith('PUT')).map(({ body }) => (body as typeof view).untold)
  const [booked, moved] = await screen.findAllByRole<HTMLInputElement>('checkbox', { name: /: Mail$/ })
  if (!booked || !moved) throw new Error('no choices')
  fireEvent.click(booked)
  fireEvent.click(moved)
  await waitFor(() => expect(untold()).toEqual([['booked']]))
  expect([booked.checked, moved.checked]).toEqual([false, false])
  answers['PUT /me/news'] = { ...view, untold: ['booked', 'moved'] }
  answerFirst({ ...view, untold: ['booked'] })
  await waitFor(() => expect(untold()).toEqual([['booked'], ['booked', 'moved']]))
  await waitFor(() => expect([booked.checked, moved.checked]).toEqual([false, false]))
})
