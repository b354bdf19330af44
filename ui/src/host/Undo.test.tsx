// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import { showServed } from './served'
import { Undo } from './Undo'

afterEach(cleanup)

const change = (label: string, undone: boolean) => ({
  id: 1,
  at: '2026-05-04T08:00:00Z',
  label: { sentence: label },
  undone,
  tells: false,
})

it('undoes one change however often it is pressed, and is gone when there is none left', async () => {
  let answer: (history: unknown) => void = () => {}
  const answers: Record<string, unknown> = {
    'GET /me': { demo: [], empty: false, setup: 0 },
    'GET /history': [change('Notice 60 min', false)],
    'POST /history/undo': new Promise((resolve) => {
      answer = resolve
    }),
  }
  const sent = showServed(<Undo />, answers)
  const undone = () => sent.filter(({ asked }) => asked === 'POST /history/undo').length
  fireEvent.click(await screen.findByRole('button', { name: 'Undo: Notice 60 min' }))
  const yes = screen.getByRole('button', { name: 'Undo it' })
  fireEvent.click(yes)
  await waitFor(() => expect(yes.hasAttribute('disabled')).toBe(true))
  fireEvent.click(yes)
  answers['GET /history'] = [change('Notice 60 min', true)]
  answer([change('Notice 60 min', true)])
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Undo it' })).toBeNull())
  await waitFor(() => expect(screen.queryByRole('button', { name: /^Undo: / })).toBeNull())
  expect(undone()).toBe(1)
})
